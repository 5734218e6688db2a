<!DOCTYPE html>
<html lang="en">
<head>
  <meta charset="utf-8">
  <meta name="viewport" content="width=device-width, initial-scale=1">
  <meta name="robots" content="noindex">
  <title>Brenvic</title>
  <style>
    body { margin: 0; min-height: 100vh; display: grid; place-items: center; background: #faf7f2; color: #211c27; font: 16px/1.5 Georgia, serif; }
    main { width: min(92vw, 400px); }
    h1 { font-weight: 500; font-size: 28px; margin: 0 0 4px; }
    label { display: block; margin: 16px 0 4px; color: #645c6b; font-size: 14px; }
    input { box-sizing: border-box; width: 100%; padding: 8px; border: 0; border-bottom: 1px solid #645c6b; background: #fff; font: inherit; }
    button { margin-top: 18px; padding: 8px 22px; border: 0; border-radius: 3px; background: #4b2354; color: #fff; font: inherit; cursor: pointer; }
    .wrong { color: #a13d25; }
  </style>
</head>
<body>
  <main>
    <h1>Brenvic</h1>
    @if ($open)
      <p>A file is ready for you.</p>
      <form method="post" action="/outside/{{ $token }}">
        @csrf
        @if ($password)
          <label for="password">Password you were given</label>
          <input id="password" name="password" type="password" autocomplete="off" required @if ($wrong) aria-invalid="true" aria-describedby="wrong" @endif>
          @if ($wrong)<p class="wrong" id="wrong" role="alert">The password is wrong. Try again.</p>@endif
        @endif
        <button>Download the file</button>
      </form>
    @else
      <p>Nothing can be downloaded here. The link may have expired or been used up. Ask the person who sent it.</p>
    @endif
  </main>
</body>
</html>
