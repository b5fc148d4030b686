<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;

/**
 * Puts other values in the place of those that nobody may see, for as long as this object lives: the same value always becomes the same
 * other one, and two different ones never become the same, so that keys stay keys and references lead where they led. What it looks like
 * stays: letters become letters, digits digits, everything else stands; days become days of the year before. Nothing leads back: the key by
 * which values are drawn (HMAC, RFC 2104) is made by chance and kept nowhere.
 */
final class Masking
{
    /** So many tries at a value that nobody else has. */
    private const TRIES = 50;
    /** Texts of so many characters are codes, of which there are few: one becomes another of them. */
    private const CODE = 3;

    private readonly string $key;
    /** @var array<string, array<string, string>> by family: value → what stands for it */
    private array $masked = [];
    /** @var array<string, array<string, true>> by family: what is taken */
    private array $taken = [];

    public function __construct()
    {
        $this->key = random_bytes(32);
    }

    /** @param list<string> $others the values that stand in the same place, of which a code becomes one */
    public function of(string $value, Type $type, array $others = []): string
    {
        $members = match (true) {
            [] !== $type->members && !$type->several => $type->members,
            mb_strlen($value) <= self::CODE => $others,
            default => [],
        };
        if ([] !== $members) {
            return $members[hexdec(bin2hex(substr($this->drawn($value, 0), 0, 4))) % \count($members)];
        }
        $family = $type->family->name;
        if (isset($this->masked[$family][$value])) {
            return $this->masked[$family][$value];
        }
        $mask = $value;
        for ($try = 0; $try < self::TRIES && ($mask === $value || isset($this->taken[$family][$mask])); ++$try) {
            $mask = $this->made($value, $type, $try);
        }
        // Where nearly all of a form are taken, the next of the form that is free: there are as many as values that may ask for one.
        while (isset($this->taken[$family][$mask])) {
            $mask = self::next($mask);
        }
        $this->taken[$family][$mask] = true;

        return $this->masked[$family][$value] = $mask;
    }

    private function made(string $value, Type $type, int $try): string
    {
        $bytes = $this->drawn($value, $try);

        return match (true) {
            TypeFamily::Flag === $type->family => $value,
            TypeFamily::Document === $type->family => str_starts_with(ltrim($value), '[') ? '[]' : '{}',
            TypeFamily::Time === $type->family => $this->earlier($value, $bytes, intdiv($try, 10)),
            'uuid' === $type->name => (string) preg_replace('/^(.{8})(.{4}).(.{3}).(.{3})(.{12}).*$/s', '$1-$2-4$3-a$4-$5', bin2hex($bytes)),
            default => $this->lookingAlike($value, $bytes),
        };
    }

    /** A date, with whatever stands behind it, some days before. */
    private function earlier(string $value, string $bytes, int $years): string
    {
        if (1 !== preg_match('/^(\d{4})-(\d\d)-(\d\d)(.*)$/s', $value, $m) || !checkdate((int) $m[2], (int) $m[3], (int) $m[1])) {
            return $this->lookingAlike($value, $bytes);
        }
        $days = 1 + (\ord($bytes[0]) << 8 | \ord($bytes[1])) % 365 + 365 * $years;

        return (new \DateTimeImmutable("$m[1]-$m[2]-$m[3]"))->modify("-$days days")->format('Y-m-d').$m[4];
    }

    private function lookingAlike(string $value, string $bytes): string
    {
        $made = '';
        $first = true;
        foreach (mb_str_split($value) as $i => $sign) {
            $drawn = \ord($bytes[$i % \strlen($bytes)]) ^ ($i * 37 & 0xFF);
            $made .= match (true) {
                // A number keeps its length.
                1 === preg_match('/^\d$/', $sign) => match (true) {
                    $first && '0' !== $sign => (string) (1 + $drawn % 9),
                    $first => '0',
                    default => (string) ($drawn % 10),
                },
                1 === preg_match('/^\p{Lu}$/u', $sign) => \chr(65 + $drawn % 26),
                1 === preg_match('/^\p{L}$/u', $sign) => \chr(97 + $drawn % 26),
                default => $sign,
            };
            $first = $first && 1 !== preg_match('/^[\d\p{L}]$/u', $sign);
        }

        return $made;
    }

    /** The next text of the same form, as a counter goes on. */
    private static function next(string $text): string
    {
        $first = preg_match('/[\dA-Za-z]/', $text, $m, \PREG_OFFSET_CAPTURE) ? $m[0][1] : 0;
        for ($i = \strlen($text) - 1; $i >= 0; --$i) {
            [$low, $high] = match (true) {
                ctype_digit($text[$i]) => $i === $first ? ['0' === $text[$i] ? '0' : '1', '0' === $text[$i] ? '0' : '9'] : ['0', '9'],
                ctype_upper($text[$i]) => ['A', 'Z'],
                ctype_lower($text[$i]) => ['a', 'z'],
                default => [null, null],
            };
            if (null === $low || $low === $high) {
                continue;
            }
            if ($text[$i] !== $high) {
                $text[$i] = \chr(\ord($text[$i]) + 1);

                return $text;
            }
            $text[$i] = $low;
        }

        return $text.'x';
    }

    private function drawn(string $value, int $try): string
    {
        return hash_hmac('sha512', $try."\0".$value, $this->key, true);
    }
}
