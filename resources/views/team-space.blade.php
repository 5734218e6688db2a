<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <meta name="robots" content="noindex">
  <title>Team space</title>
  <style>
    body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: #eef1ee; color: #1f2421; font: 16px/1.5 Georgia, serif; }
    main { width: min(92vw, 440px); }
    h1 { font-weight: 500; font-size: 26px; margin: 0 0 4px; }
    label { display: block; margin: 18px 0 4px; color: #4c554f; font-size: 14px; }
    button, .fetch { display: inline-block; margin-top: 12px; padding: 8px 22px; border: 0; border-radius: 3px; background: #2f4a38; color: #fff; font: inherit; cursor: pointer; text-decoration: none; }
    .quiet { color: #4c554f; font-size: 14px; }
  </style>
</head>
<body>
  <main>
    <h1>Team space</h1>
    @if ($copy !== null)
      <p>“{{ $copy['name'] }}” was lent by {{ $from }}@if ($due), until {{ $due }}@endif.</p>
      @if (request()->query('changed'))<p role="status">Your file has replaced the copy.</p>@endif
      <p><a class="fetch" href="/team-space/{{ $key }}/file">Download the copy</a></p>
      <form method="post" action="/team-space/{{ $key }}" enctype="multipart/form-data">
        @csrf
        <label for="file">The changed file, to stand in its place</label>
        <input id="file" name="file" type="file" required>
        <div><button>Upload the changed file</button></div>
      </form>
      <p class="quiet">A stand-in for the place where a team outside works together.</p>
    @else
      <p>There is no copy at this address. It may have been returned.</p>
    @endif
  </main>
</body>
</html>
