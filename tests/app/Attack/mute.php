<?php

declare(strict_types=1);

/*
 * A server that lets everybody in as far as it is told, and then says nothing any more: `at once`, after the `greeting` of MariaDB, or after it
 * `let in` (either protocol). Its port stands on its first line. Ends by itself after a minute.
 */
$how = $argv[1] ?? 'at once';
$server = stream_socket_server('tcp://127.0.0.1:0') ?: exit(1);
echo substr((string) strrchr((string) stream_socket_get_name($server, false), ':'), 1), "\n";
$packet = static fn (int $number, string $body): string => substr(pack('V', strlen($body)), 0, 3).chr($number).$body;
$kept = [];
$until = time() + 60;
while (time() < $until) {
    $client = @stream_socket_accept($server, 1);
    if (false === $client) {
        continue;
    }
    $kept[] = $client;
    stream_set_timeout($client, 1);
    if ('greeting' === $how || 'let in' === $how) {
        fwrite(
            $client,
            $packet(
                0,
                "\x0a5.5.5-10.11.6-MariaDB\0".pack('V', 1).'abcdefgh'."\0\xff\xf7\x21\x02\x00\xff\x81\x15"
                    .str_repeat("\0", 10)."ijklmnopqrst\0mysql_native_password\0",
            ),
        );
    }
    if ('let in' === $how) {
        fread($client, 4096);
        fwrite($client, $packet(2, "\0\0\0\2\0\0\0"));
    }
    if ('let in, PostgreSQL' === $how) {
        fread($client, 4096);
        fwrite($client, 'N');
        fread($client, 4096);
        fwrite($client, 'R'.pack('N', 8).pack('N', 0).'Z'.pack('N', 5).'I');
    }
}
