<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <meta name="robots" content="noindex">
  <title>{{ $form?->name ?? 'Brenvic' }}</title>
  <style>
    body { margin: 0; background: #faf7f2; color: #211c27; font: 16px/1.5 Georgia, serif; }
    main { width: min(92vw, 560px); margin: 6vh auto; }
    h1 { font-weight: 500; font-size: 28px; margin: 0 0 4px; }
    label { display: block; margin: 16px 0 4px; color: #645c6b; font-size: 14px; }
    input, select, textarea { box-sizing: border-box; width: 100%; padding: 8px; border: 0; border-bottom: 1px solid #645c6b; background: #fff; color: inherit; font: inherit; }
    button { margin-top: 22px; padding: 8px 22px; border: 0; border-radius: 3px; background: #4b2354; color: #fff; font: inherit; cursor: pointer; }
    .wrong { color: #a13d25; margin: 4px 0 0; font-size: 14px; }
    .quiet { color: #645c6b; margin: 4px 0 0; font-size: 14px; }
    .away { position: absolute; left: -9999px; }
    :focus-visible { outline: 2px solid #4b2354; outline-offset: 1px; }
  </style>
</head>
<body>
  <main>
    @if ($form === null)
      <h1>Brenvic</h1>
      <p>There is no form at this address. It may be out of use. Ask the person who gave you the address.</p>
    @elseif ($isSent)
      <h1>{{ $form->name }}</h1>
      <p role="status">{{ $form->thanks !== '' ? $form->thanks : 'It has arrived.' }}</p>
      <p><a href="/form/{{ $key }}">Fill in another</a></p>
    @else
      <h1>{{ $form->name }}</h1>
      @if ($form->intro !== '')<p>{!! nl2br(e($form->intro)) !!}</p>@endif
      @if ($fault)<p class="wrong" role="alert">{{ $fault }}</p>@endif
      <form method="post" action="/form/{{ $key }}" enctype="multipart/form-data">
        @csrf
        <input type="hidden" name="opened" value="{{ $opened }}">
        <div class="away" aria-hidden="true"><label for="website">Leave this empty</label><input id="website" name="website" tabindex="-1" autocomplete="off"></div>
        @foreach ($fields as $field)
          <label for="f-{{ $field['code'] }}">{{ $field['label'] }}@if ($field['required']) (needed)@endif</label>
          @php($described = implode(' ', array_filter([$field['help'] !== '' ? "h-{$field['code']}" : '', $field['fault'] ? "w-{$field['code']}" : ''])))
          @if ($field['as'] === 'choice' || $field['as'] === 'yes-no')
            <select id="f-{{ $field['code'] }}" name="field[{{ $field['code'] }}]" @if ($field['required']) required @endif @if ($described) aria-describedby="{{ $described }}" @endif @if ($field['fault']) aria-invalid="true" @endif>
              <option value=""></option>
              @foreach ($field['as'] === 'yes-no' ? ['yes' => 'Yes', 'no' => 'No'] : $field['terms'] as $code => $label)
                <option value="{{ $code }}" @selected((string) $code === $field['value'])>{{ $label }}</option>
              @endforeach
            </select>
          @elseif ($field['as'] === 'long-text')
            <textarea id="f-{{ $field['code'] }}" name="field[{{ $field['code'] }}]" rows="5" @if ($field['required']) required @endif @if ($described) aria-describedby="{{ $described }}" @endif @if ($field['fault']) aria-invalid="true" @endif>{{ $field['value'] }}</textarea>
          @else
            <input id="f-{{ $field['code'] }}" name="field[{{ $field['code'] }}]" @if ($field['as'] === 'date') type="date" @endif value="{{ $field['value'] }}" @if ($field['required']) required @endif @if ($described) aria-describedby="{{ $described }}" @endif @if ($field['fault']) aria-invalid="true" @endif>
          @endif
          @if ($field['help'] !== '')<p class="quiet" id="h-{{ $field['code'] }}">{{ $field['help'] }}</p>@endif
          @if ($field['fault'])<p class="wrong" id="w-{{ $field['code'] }}" role="alert">{{ $field['fault'] }}</p>@endif
        @endforeach
        @if ($form->files > 0)
          <label for="files">Files, {{ $form->files }} at most, {{ $megabytes }} MB together</label>
          <input id="files" name="files[]" type="file" multiple @if ($fileFault) aria-invalid="true" aria-describedby="w-files" @endif>
        @endif
        @if ($fileFault)<p class="wrong" id="w-files" role="alert">{{ $fileFault }}</p>@endif
        <button>Send</button>
      </form>
    @endif
  </main>
</body>
</html>
