<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\TrialWords;
use Fasti\Source\Connection;

/** What all kept trials of a model say through its connection and through another, side by side. */
final readonly class Repointing
{
    /**
     * @param int    $connection it would be pointed to; 0 for whichever the source uses
     * @param string $at         when it was asked, as `Y-m-d H:i:s`
     * @param bool   $current    neither the model nor a trial has been changed since
     * @param list<array{id: int, name: string, words: string, same: bool, here: array<mixed>, there: array<mixed>,
     *     rows: list<array{key: string, before: string, after: string}>}> $trials those that differ first
     */
    private function __construct(public int $connection, public string $from, public string $to, public string $at, public bool $current, public array $trials)
    {
    }

    /**
     * What the comparison holds of: another model, another trial or another connection would be answered otherwise.
     *
     * @param list<KeptTrial> $trials
     */
    public static function standing(KeptModel $kept, array $trials): string
    {
        $asked = array_map(static fn (KeptTrial $one): array => [$one->id(), $one->question], $trials);

        return hash('xxh128', serialize([$kept->definition, $kept->connection()->id(), $asked]));
    }

    /**
     * @param ?Connection      $connection null for whichever the source uses
     * @param list<KeptTrial>  $trials
     * @param list<AskedTrial> $here       in the same order
     * @param list<AskedTrial> $there
     *
     * @return array<string, mixed>
     */
    public static function kept(KeptModel $kept, ?Connection $connection, string $standing, array $trials, array $here, array $there): array
    {
        return [
            'connection' => (int) $connection?->id(), 'from' => $kept->connection()->label, 'to' => ($connection ?? $kept->source->connection())->label,
            'at' => (new \DateTimeImmutable())->format('Y-m-d H:i:s'), 'of' => $standing,
            'trials' => array_map(static fn (KeptTrial $one, AskedTrial $a, AskedTrial $b): array => [
                'id' => $one->id(), 'name' => $one->name, 'words' => TrialWords::of($one->trial()), 'here' => $a->kept(), 'there' => $b->kept(),
            ], $trials, $here, $there),
        ];
    }

    /** @param list<KeptTrial> $trials of the model as it is now */
    public static function read(KeptModel $kept, array $trials): ?self
    {
        $data = $kept->repointing;
        if (null === $data) {
            return null;
        }
        $compared = [];
        foreach (\is_array($data['trials'] ?? null) ? $data['trials'] : [] as $one) {
            $compared[] = self::compared(\is_array($one) ? $one : []);
        }
        usort($compared, static fn (array $a, array $b): int => $a['same'] <=> $b['same']);
        $text = static fn (string $key): string => \is_string($data[$key] ?? null) ? $data[$key] : '';

        return new self(
            \is_int($data['connection'] ?? null) ? $data['connection'] : 0, $text('from'), $text('to'), $text('at'),
            $text('of') === self::standing($kept, $trials), $compared,
        );
    }

    /**
     * @param array<mixed> $one
     *
     * @return array{id: int, name: string, words: string, same: bool, here: array<mixed>, there: array<mixed>,
     *     rows: list<array{key: string, before: string, after: string}>}
     */
    private static function compared(array $one): array
    {
        $here = \is_array($one['here'] ?? null) ? $one['here'] : [];
        $there = \is_array($one['there'] ?? null) ? $one['there'] : [];
        $answer = static fn (array $of): ?array => KeptTrial::ANSWERED === ($of['state'] ?? '') && \is_array($of['answer'] ?? null) ? $of['answer'] : null;
        $said = static fn (array $of): array => [$of['state'] ?? '', $of['words'] ?? '', $answer($of)['fingerprint'] ?? null];

        return [
            'id' => \is_int($one['id'] ?? null) ? $one['id'] : 0, 'name' => \is_string($one['name'] ?? null) ? $one['name'] : '',
            'words' => \is_string($one['words'] ?? null) ? $one['words'] : '',
            'same' => $said($here) === $said($there) && KeptTrial::FAILED !== ($there['state'] ?? ''),
            'here' => $here, 'there' => $there, 'rows' => Difference::between($answer($here), $answer($there)),
        ];
    }

    public function differing(): int
    {
        return \count(array_filter($this->trials, static fn (array $one): bool => !$one['same']));
    }
}
