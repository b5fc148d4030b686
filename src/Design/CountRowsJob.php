<?php

declare(strict_types=1);

namespace Fasti\Design;

use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Design\ColumnChanges;
use Fasti\Core\Design\RowQuestion;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Work\InOneGo;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Asks a source how many of its rows a planned change could not keep as they are. It is only read. */
final readonly class CountRowsJob implements JobKind
{
    use InOneGo;

    public const NAME = 'count rows';
    private const SECONDS = 60;

    public function __construct(private Designs $designs, private Planning $planning, private Sources $sources)
    {
    }

    public static function lane(int $design): string
    {
        return 'rows '.$design;
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::ASK;
    }

    public function urgency(): int
    {
        return 3;
    }

    public function page(Job $job): array
    {
        return ['design_changes', ['id' => $job->number('design')]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Nothing was changed; count again when you like.';
    }

    public function run(Running $running): void
    {
        $kept = $this->designs->one($running->job->number('design')) ?? throw new JobFailed('The design is not there any more.');
        $source = $kept->source ?? throw new JobFailed('The source of this design is not there any more.');
        try {
            [$changes] = $this->planning->of($kept, true);
            $of = $this->planning->of($kept)[0]->fingerprint();
            $rows = $this->sources->rows($this->sources->target($source), self::SECONDS)
                ?? throw new JobFailed('Files cannot be asked questions, only read.');
            $closed = array_keys($this->planning->closed($source));
            $counted = [];
            foreach (array_values($changes->questions) as $i => $question) {
                $running->at('Counting rows of '.$question->table->name, $i, \count($changes->questions));
                $counted[$question->key] = self::why($question, $closed) ?? self::count($rows, $changes->finding($question, true));
            }
        } catch (SourceError $e) {
            throw new JobFailed($e->inWords(), 0, $e);
        }
        $kept = $this->designs->fresh($kept);
        $kept->counted = ['of' => $of, 'at' => (new \DateTimeImmutable())->format('Y-m-d H:i:s'), 'rows' => $counted];
        $this->designs->save();
    }

    /**
     * @param list<string> $closed FieldPlace::key() of fields whose values are kept from people
     *
     * @return ?string why it is not asked
     */
    private static function why(RowQuestion $question, array $closed): ?string
    {
        foreach ($closed as $key) {
            $field = FieldPlace::ofKey($key);
            if ((new Place($field->schema, $field->table))->key() === $question->table->key() && ColumnChanges::mentions($question->where, $field->column)) {
                return \sprintf('“%s” is personal or secret, so nothing is asked of it', $field->column);
            }
        }

        return $question->plain ? null : 'somebody has written SQL for it, which Fasti does not put to a source: ask it yourself';
    }

    /** @throws SourceError where the source is lost */
    private static function count(Rows $rows, string $sql): int|string
    {
        try {
            foreach ($rows->rows($sql) as $row) {
                return (int) ($row['found'] ?? 0);
            }

            return 0;
        } catch (SourceError $e) {
            return SourceError::LOST === $e->what ? throw $e : $e->inWords();
        }
    }
}
