<!doctype html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <meta name="color-scheme" content="light dark">
    <title>Brenvic</title>
    <link rel="icon" href="/favicon.png" type="image/png" sizes="64x64">
    @vite('web/main.ts')
</head>
<body>
    <div id="app"></div>
    <noscript>Brenvic needs JavaScript, which this browser does not run.</noscript>
</body>
</html>
