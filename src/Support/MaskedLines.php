<?php

declare(strict_types=1);

namespace Fasti\Support;

use Monolog\Formatter\LineFormatter;
use Monolog\LogRecord;

/** Lines of the log without secrets: passwords in URLs, and whatever followed the name of a command. */
final class MaskedLines extends LineFormatter
{
    public function format(LogRecord $record): string
    {
        $command = $record->context['command'] ?? null;
        $line = parent::format($record);
        if (\is_string($command) && 1 === preg_match('/^(\S+)\s/', trim($command), $m)) {
            // As it stands, and as JSON writes it.
            $json = substr((string) json_encode($command, \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE), 1, -1);
            $line = str_replace([$command, $json, str_replace("\n", ' ', $command)], $m[1].' …', $line);
        }

        return self::masked($line);
    }

    /** Puts an ellipsis in the place of the password of any URL: `mysql://reader:…@host`. */
    public static function masked(string $text): string
    {
        return preg_replace('~(\w:/{2}|\w:\\\\/\\\\/)([^\s:/@"\']*):[^\s"\']*@~', '$1$2:…@', $text) ?? $text;
    }
}
