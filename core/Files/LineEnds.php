<?php

declare(strict_types=1);

namespace Fasti\Core\Files;

/** A stream filter for files whose lines end with a carriage return alone: it makes line feeds of them. */
final class LineEnds extends \php_user_filter
{
    private const NAME = 'fasti.line-ends';

    /** @param resource $stream */
    public static function mend(mixed $stream): void
    {
        if (!\in_array(self::NAME, stream_get_filters(), true)) {
            stream_filter_register(self::NAME, self::class);
        }
        stream_filter_append($stream, self::NAME, \STREAM_FILTER_READ);
    }

    /**
     * @param resource $in
     * @param resource $out
     * @param int      $consumed
     */
    public function filter($in, $out, &$consumed, bool $closing): int
    {
        while (null !== ($bucket = stream_bucket_make_writeable($in))) {
            $data = \is_string($bucket->data) ? $bucket->data : '';
            $bucket->data = strtr($data, "\r", "\n");
            $consumed += \strlen($data);
            stream_bucket_append($out, $bucket);
        }

        return \PSFS_PASS_ON;
    }
}
