<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Asking;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Planner;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\Unanswerable;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;

/** What a source says to a trial, as it is kept: personal values are not. */
final readonly class AskedTrial
{
    /** Rows of an answer that are kept. */
    public const KEPT_ROWS = 200;

    /**
     * @param string                    $state  KeptTrial::ANSWERED, REFUSED or FAILED
     * @param string                    $words  why it was refused, or could not be asked
     * @param array<string, mixed>|null $answer as KeptTrial has it
     */
    private function __construct(public string $state, public string $words, public string $plan, public ?array $answer)
    {
    }

    /**
     * @param array<string, string> $personal FieldPlace::key() → why; such values are not kept
     *
     * @throws SourceError where the source is lost
     */
    public static function of(Trial $trial, Ground $ground, Rows $rows, array $personal): self
    {
        try {
            $plan = (new Planner($ground, new \DateTimeImmutable('today')))->plan($trial);
            $hidden = array_filter(array_map(static fn (PlanColumn $column): bool => Grounds::isPersonal($ground, $column, $personal), $plan->columns));
            $answer = AnswerView::of((new Asking($rows))->answer($plan), $hidden);
            $disagree = array_filter($answer->reconciled, static fn (array $one): bool => !$one['agrees']);

            return new self(
                [] === $answer->doubled ? KeptTrial::ANSWERED : KeptTrial::REFUSED, implode(' ', array_column($answer->doubled, 'words')), $plan->sql(),
                [
                    'columns' => $answer->columns, 'rows' => \array_slice($answer->rows, 0, self::KEPT_ROWS),
                    'shown' => \array_slice($answer->shown, 0, self::KEPT_ROWS),
                    'many' => $answer->many, 'total' => $answer->total, 'fingerprint' => $answer->fingerprint, 'agrees' => [] === $disagree,
                    'lost' => array_column($answer->lost, 'words'),
                ],
            );
        } catch (Unanswerable|ModelError $e) {
            return new self(KeptTrial::REFUSED, $e->getMessage(), '', null);
        } catch (SourceError $e) {
            return SourceError::LOST === $e->what ? throw $e : new self(KeptTrial::FAILED, $e->inWords(), '', null);
        }
    }

    /** @return array{state: string, words: string, answer: array<string, mixed>|null} */
    public function kept(): array
    {
        return ['state' => $this->state, 'words' => $this->words, 'answer' => $this->answer];
    }
}
