<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\MySql;

/** Character sets of MySQL's family: the collation that each has by itself, and how many bytes a letter takes at the most. */
final class Charsets
{
    private const ALL = [
        'armscii8' => ['armscii8_general_ci', 1], 'ascii' => ['ascii_general_ci', 1], 'big5' => ['big5_chinese_ci', 2], 'binary' => ['binary', 1],
        'cp1250' => ['cp1250_general_ci', 1], 'cp1251' => ['cp1251_general_ci', 1], 'cp1256' => ['cp1256_general_ci', 1], 'cp1257' => ['cp1257_general_ci', 1],
        'cp850' => ['cp850_general_ci', 1], 'cp852' => ['cp852_general_ci', 1], 'cp866' => ['cp866_general_ci', 1], 'cp932' => ['cp932_japanese_ci', 2],
        'dec8' => ['dec8_swedish_ci', 1], 'eucjpms' => ['eucjpms_japanese_ci', 3], 'euckr' => ['euckr_korean_ci', 2], 'gb2312' => ['gb2312_chinese_ci', 2],
        'gb18030' => ['gb18030_chinese_ci', 4], 'gbk' => ['gbk_chinese_ci', 2], 'geostd8' => ['geostd8_general_ci', 1], 'greek' => ['greek_general_ci', 1],
        'hebrew' => ['hebrew_general_ci', 1], 'hp8' => ['hp8_english_ci', 1], 'keybcs2' => ['keybcs2_general_ci', 1], 'koi8r' => ['koi8r_general_ci', 1],
        'koi8u' => ['koi8u_general_ci', 1], 'latin1' => ['latin1_swedish_ci', 1], 'latin2' => ['latin2_general_ci', 1], 'latin5' => ['latin5_turkish_ci', 1],
        'latin7' => ['latin7_general_ci', 1], 'macce' => ['macce_general_ci', 1], 'macroman' => ['macroman_general_ci', 1], 'sjis' => ['sjis_japanese_ci', 2],
        'swe7' => ['swe7_swedish_ci', 1], 'tis620' => ['tis620_thai_ci', 1], 'ucs2' => ['ucs2_general_ci', 2], 'ujis' => ['ujis_japanese_ci', 3],
        'utf16' => ['utf16_general_ci', 4], 'utf16le' => ['utf16le_general_ci', 4], 'utf32' => ['utf32_general_ci', 4], 'utf8mb3' => ['utf8mb3_general_ci', 3],
        'utf8mb4' => ['utf8mb4_general_ci', 4],
    ];

    public static function named(string $charset): string
    {
        return 'utf8' === $charset ? 'utf8mb3' : $charset;
    }

    public static function collationNamed(string $collation): string
    {
        return (string) preg_replace('/^utf8_/', 'utf8mb3_', strtolower($collation));
    }

    /** The set that a collation is of. */
    public static function ofCollation(string $collation): string
    {
        return strstr(self::collationNamed($collation), '_', true) ?: $collation;
    }

    /** @param string $usual what utf8mb4 has, which differs between servers */
    public static function collation(string $charset, string $usual): string
    {
        $charset = self::named($charset);

        return 'utf8mb4' === $charset ? $usual : self::ALL[$charset][0] ?? $charset.'_general_ci';
    }

    /** Bytes of a letter at the most. */
    public static function width(string $charset): int
    {
        return self::ALL[self::named($charset)][1] ?? 4;
    }
}
