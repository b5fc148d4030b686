<?php

declare(strict_types=1);

namespace Fasti\Core\Diagram;

use Fasti\Core\Diagram\Piece\PieceKind;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Enumeration;

/**
 * What a person has put where on a diagram. Its pieces are tablets (key `t` and the id of the entry), notes, headings and frames (key `n` and
 * a random rest), and `detail`, how much tablets show that do not say it themselves.
 * A tablet has x, y, and perhaps what it shows, fields picked by hand, folded, and auto where Fasti has placed it; words have a kind, a text,
 * x, y, and perhaps a width and a height.
 */
final readonly class Arrangement
{
    private const MOST_TEXT = 4000;
    private const MOST_FIELDS = 400;

    /** @param array<string, array<string, mixed>> $pieces each as checked() gives it */
    public function __construct(public array $pieces)
    {
    }

    /** @throws SceneError */
    public static function fromJson(string $json): self
    {
        $open = json_decode('' === $json ? '{}' : $json, true);
        if (!\is_array($open)) {
            throw new SceneError('An arrangement is a JSON object of pieces.');
        }
        $pieces = [];
        foreach ($open as $key => $value) {
            $pieces[(string) $key] = self::checked((string) $key, $value);
        }

        return new self($pieces);
    }

    public function json(): string
    {
        $pieces = $this->pieces;
        ksort($pieces, \SORT_NATURAL);

        return (string) json_encode((object) $pieces, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_THROW_ON_ERROR);
    }

    /** @return array<int, array{float, float}> by entry */
    public function places(): array
    {
        $places = [];
        foreach ($this->pieces as $key => $piece) {
            $entry = self::entry($key);
            if (null !== $entry && \is_float($piece['x'] ?? null) && \is_float($piece['y'] ?? null)) {
                $places[$entry] = [$piece['x'], $piece['y']];
            }
        }

        return $places;
    }

    /** Without the places that Fasti has found, so that it finds new ones. */
    public function byHand(): self
    {
        return new self(array_filter($this->pieces, static fn (array $piece): bool => true !== ($piece['auto'] ?? null)));
    }

    /** @return list<int> */
    public function entries(): array
    {
        return array_values(array_filter(array_map(self::entry(...), array_keys($this->pieces)), is_int(...)));
    }

    public static function entry(string $key): ?int
    {
        return 1 === preg_match('/^t([1-9]\d{0,9})$/', $key, $m) ? (int) $m[1] : null;
    }

    /** @return list<Note> */
    public function notes(): array
    {
        $notes = [];
        foreach ($this->pieces as $key => $piece) {
            $kind = \is_string($piece['kind'] ?? null) ? PieceKind::named($piece['kind']) : null;
            if (null !== $kind) {
                $figure = static fn (string $name, float $else): float => \is_float($piece[$name] ?? null) ? $piece[$name] : $else;
                $notes[] = new Note(
                    $key,
                    $kind,
                    \is_string($piece['text'] ?? null) ? $piece['text'] : '',
                    $figure('x', 0),
                    $figure('y', 0),
                    $figure('width', Note::WIDTH),
                    $figure('height', 160),
                );
            }
        }

        return $notes;
    }

    public function detail(): ?Detail
    {
        $shows = $this->pieces['detail']['shows'] ?? null;

        return \is_string($shows) ? Detail::tryFrom($shows) : null;
    }

    /** A tablet as this arrangement shows it. */
    public function shown(Tablet $tablet): Tablet
    {
        $piece = $this->pieces['t'.$tablet->id] ?? [];
        $fields = $piece['fields'] ?? null;
        $shows = $piece['shows'] ?? null;

        return new Tablet(
            $tablet->id, $tablet->title, $tablet->rows, $tablet->grain, $tablet->word, $tablet->link, $tablet->tooltip,
            $tablet->folded || true === ($piece['folded'] ?? null),
            $tablet->marked,
            \is_string($shows) ? Detail::tryFrom($shows) : null,
            \is_array($fields) ? array_values(array_filter($fields, is_string(...))) : null,
            $tablet->spoken,
            $tablet->leads,
            $tablet->gone,
        );
    }

    /**
     * What may be said of a piece, and nothing else.
     *
     * @return array<string, mixed>
     *
     * @throws SceneError
     */
    public static function checked(string $key, mixed $value): array
    {
        if (!\is_array($value)) {
            throw new SceneError("What is said of “{$key}” is not an object.");
        }
        if ('detail' === $key) {
            $shows = $value['shows'] ?? null;

            return [
                'shows' => \is_string($shows) && null !== Detail::tryFrom($shows) ? $shows : throw new SceneError('“detail” shows names, keys, leads or all.'),
            ];
        }
        if (null !== self::entry($key)) {
            return self::tablet($key, $value);
        }

        return 1 === preg_match('/^n[a-z0-9]{1,20}$/', $key) ? self::words($key, $value) : throw new SceneError("“{$key}” is not the name of a piece.");
    }

    /**
     * @param array<mixed> $value
     *
     * @return array<string, mixed>
     */
    private static function tablet(string $key, array $value): array
    {
        $piece = ['x' => self::figure($key, $value, 'x'), 'y' => self::figure($key, $value, 'y')];
        $shows = $value['shows'] ?? null;
        if (null !== $shows) {
            $piece['shows'] = \is_string($shows) && null !== Detail::tryFrom($shows) ? $shows
                : throw new SceneError("“{$key}” shows names, keys, leads or all.");
        }
        if (\is_array($value['fields'] ?? null)) {
            $piece['fields'] = \array_slice(array_values(array_filter($value['fields'], is_string(...))), 0, self::MOST_FIELDS);
        }
        foreach (['folded', 'auto'] as $mark) {
            if (true === ($value[$mark] ?? null)) {
                $piece[$mark] = true;
            }
        }

        return $piece;
    }

    /**
     * @param array<mixed> $value
     *
     * @return array<string, mixed>
     */
    private static function words(string $key, array $value): array
    {
        $kind = \is_string($value['kind'] ?? null) ? PieceKind::named($value['kind']) : null;
        $text = $value['text'] ?? '';
        if (null === $kind || !\is_string($text)) {
            $kinds = Enumeration::of(array_map(static fn (PieceKind $piece): string => 'a '.$piece->name(), PieceKind::known()), 'or');
            throw new SceneError("“{$key}” is to be $kinds, and to have a text.");
        }
        if (mb_strlen($text) > self::MOST_TEXT) {
            throw new SceneError(\sprintf('This note has %d characters; %d fit here.', mb_strlen($text), self::MOST_TEXT));
        }
        $piece = ['kind' => $kind->name(), 'text' => mb_scrub($text), 'x' => self::figure($key, $value, 'x'), 'y' => self::figure($key, $value, 'y')];
        foreach (['width', 'height'] as $size) {
            if (isset($value[$size])) {
                $piece[$size] = max(60.0, self::figure($key, $value, $size));
            }
        }

        return $piece;
    }

    /** @param array<mixed> $value */
    private static function figure(string $key, array $value, string $name): float
    {
        $figure = $value[$name] ?? null;

        return (\is_int($figure) || \is_float($figure)) && abs($figure) <= 200000
            ? round((float) $figure, 1)
            : throw new SceneError("“{$name}” of “{$key}” is to be a number of px.");
    }

    /** What is different since another one, in words: "2 tablets moved, 1 note written". */
    public function since(self $before): string
    {
        $counts = [];
        foreach ($this->pieces + $before->pieces as $key => $either) {
            $now = $this->pieces[$key] ?? null;
            $was = $before->pieces[$key] ?? null;
            if ($now === $was) {
                continue;
            }
            $noun = match (true) {
                'detail' === $key => 'level of detail',
                isset($either['kind']) && \is_string($either['kind']) => $either['kind'],
                default => 'tablet',
            };
            $done = match (true) {
                null === $was => 'added',
                null === $now => 'removed',
                ['x' => $now['x'] ?? 0, 'y' => $now['y'] ?? 0] !== ['x' => $was['x'] ?? 0, 'y' => $was['y'] ?? 0] => 'moved',
                default => 'changed',
            };
            $counts[$noun.' '.$done] = [$noun, $done, ($counts[$noun.' '.$done][2] ?? 0) + 1];
        }

        return implode(', ', array_map(
            static fn (array $count): string => 'level of detail' === $count[0] ? 'level of detail chosen' : Amount::of($count[2], $count[0]).' '.$count[1],
            array_values($counts),
        ));
    }
}
