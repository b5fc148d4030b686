<?php

declare(strict_types=1);

/*
 * For PHP's own web server: files under /build are served as they are and may be kept by the browser, since their names
 * change with their content; everything else goes to the application.
 */
$path = rawurldecode((string) parse_url($_SERVER['REQUEST_URI'] ?? '/', \PHP_URL_PATH));
if (1 === preg_match('~^/build/(?:fonts/)?[\w.-]+\.(css|js|woff2)$~', $path, $m) && is_file(__DIR__.$path)) {
    header('Content-Type: '.['css' => 'text/css; charset=UTF-8', 'js' => 'text/javascript; charset=UTF-8', 'woff2' => 'font/woff2'][$m[1]]);
    header('Cache-Control: public, max-age=31536000, immutable');
    header('X-Content-Type-Options: nosniff');
    readfile(__DIR__.$path);

    return true;
}
$_SERVER['SCRIPT_FILENAME'] = __DIR__.'/index.php';
$_SERVER['SCRIPT_NAME'] = '/index.php';
require __DIR__.'/index.php';
