<!DOCTYPE html>
<html lang="en">
<head>
    <meta charset="utf-8">
    <meta name="viewport" content="width=device-width, initial-scale=1">
    <meta name="csrf-token" content="{{ csrf_token() }}">
    <title>Ylema</title>
    <link rel="icon" href="/ylema.svg" type="image/svg+xml">
    @viteReactRefresh
    @vite('resources/ts/main.tsx')
</head>
<body>
    <div id="app"></div>
    <noscript>Ylema's desk needs JavaScript. The command line, bin/ylema, works without.</noscript>
</body>
</html>
