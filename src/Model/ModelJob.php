<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\ModelDataChecks;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelFinding;
use Fasti\Core\Model\Role;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Rows;
use Fasti\Core\Survey\SourceError;
use Fasti\Source\Sources;
use Fasti\Work\InOneGo;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\JobKind;
use Fasti\Work\Running;

/** Proves a model against its data: looks for what speaks against it, and asks all kept trials again. */
final readonly class ModelJob implements JobKind
{
    use InOneGo;

    public const NAME = 'model';

    public function __construct(private EntityManagerInterface $orm, private Models $models, private Grounds $grounds, private Sources $sources)
    {
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
        return ['model_checks', ['id' => $job->number('model')]];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. What was found before is kept; look again when you like.';
    }

    public function run(Running $running): void
    {
        $kept = $this->models->one($running->job->number('model')) ?? throw new JobFailed('The model is not there any more.');
        try {
            for ($again = 0; $again < 3; ++$again) {
                $proven = $kept->definition;
                $this->look($kept, $running, 1 === $running->job->number('whole'));
                // It may have been changed meanwhile; whoever did so was told that it is being looked at already.
                if ($proven === $this->models->fresh($kept)->definition) {
                    break;
                }
            }
        } catch (SourceError $e) {
            throw new JobFailed($e->inWords().' What was found before is kept.', 0, $e);
        } catch (ModelError $e) {
            throw new JobFailed($e->getMessage(), 0, $e);
        }
    }

    /**
     * @throws SourceError where the source cannot be reached
     * @throws ModelError  where it is none that can be asked
     */
    public function look(KeptModel $kept, Progress $progress, bool $whole = true): void
    {
        $ground = $this->grounds->of($kept);
        $ground->sql();
        $rows = $this->sources->rows($this->sources->targetOf($kept->connection()), 120) ?? throw new ModelError('Files cannot be asked questions, only read.');
        if ($whole || null === $kept->lookedAt || ($kept->looked['of'] ?? '') !== self::standing($kept)) {
            $this->data($kept, $ground, $rows, $progress);
        }
        $personal = $this->grounds->known($kept)->personal;
        $trials = $this->models->trials($kept);
        foreach ($trials as $i => $trial) {
            $progress->at('Asking: '.$trial->name, $i, \count($trials));
            $this->ask($trial, $ground, $rows, $personal);
            $this->orm->flush();
        }
    }

    /** What the checks of the data depend on: a measure that has another name changes nothing there. */
    private static function standing(KeptModel $kept): string
    {
        $model = $kept->model();
        $roles = array_map(static fn (Role $role): array => [$role->name, $role->entry, $role->key, $role->attributes], $model->roles);

        return hash('xxh128', serialize([$roles, $model->joins, $model->hierarchies, $kept->connection()->id(), $kept->source->surveyedAt?->getTimestamp()]));
    }

    private function data(KeptModel $kept, Ground $ground, Rows $rows, Progress $progress): void
    {
        $checks = new ModelDataChecks($ground, $rows);
        $findings = $checks->all($progress);
        $before = $kept->dataFindings();
        $kept->looked = [
            'of' => self::standing($kept), 'through' => $kept->connection()->label, 'notes' => $checks->notes, 'before' => $kept->lookedThrough(),
            'new' => null === $kept->lookedAt ? [] : self::without($findings, $before), 'gone' => self::without($before, $findings),
            'rows' => self::rows($findings, $rows, $ground, $this->grounds->known($kept)->personal),
            'findings' => array_map(static fn (ModelFinding $one): array => OpenForm::of($one), $findings),
        ];
        $kept->lookedAt = new \DateTimeImmutable();
        $this->orm->flush();
    }

    /**
     * The first rows that show each finding.
     *
     * @param list<ModelFinding>    $findings
     * @param array<string, string> $personal FieldPlace::key() → why; such values are not kept
     *
     * @return array<string, list<array<string, ?string>>> by the key of the finding
     */
    private static function rows(array $findings, Rows $source, Ground $ground, array $personal): array
    {
        $rows = [];
        $hidden = [];
        foreach (array_keys(Grounds::hiddenFields($ground, $personal)) as $use) {
            $hidden[explode("\0", $use)[1]] = true;
        }
        $hierarchies = self::personalHierarchies($ground, $personal);
        foreach ($findings as $finding) {
            try {
                foreach ('' === $finding->sql ? [] : $source->rows($finding->sql) as $row) {
                    $rows[$finding->key()][] = isset($hierarchies[$finding->about]) ? array_map(static fn (?string $value): ?string => null === $value ? null
                        : AnswerView::HIDDEN, $row) : array_replace($row, array_fill_keys(array_keys(array_intersect_key($row, $hidden)), AnswerView::HIDDEN));
                }
            } catch (SourceError $e) {
                if (SourceError::LOST === $e->what) {
                    throw $e;
                }
                // What was found stands without its rows.
            }
        }

        return $rows;
    }

    /**
     * @param array<string, string> $personal
     *
     * @return array<string, true> names of hierarchies of which a level reads what is not shown
     */
    private static function personalHierarchies(Ground $ground, array $personal): array
    {
        $found = [];
        $hidden = Grounds::hiddenFields($ground, $personal);
        foreach ($ground->model->hierarchies as $hierarchy) {
            foreach ($hierarchy->levels as $level) {
                $attribute = $ground->model->attribute($level);
                foreach (null === $attribute ? [] : $ground->formula($level->role, $attribute->expression)->fields as $use) {
                    if (isset($hidden[$use->role."\0".$use->column])) {
                        $found[$hierarchy->name] = true;
                    }
                }
            }
        }

        return $found;
    }

    /**
     * @param list<ModelFinding> $some
     * @param list<ModelFinding> $others
     *
     * @return list<string> what of some is not among others, in words
     */
    private static function without(array $some, array $others): array
    {
        $keys = array_map(static fn (ModelFinding $one): string => $one->key(), $others);

        return array_values(array_map(
            static fn (ModelFinding $one): string => $one->words,
            array_filter($some, static fn (ModelFinding $one): bool => !\in_array($one->key(), $keys, true)),
        ));
    }

    /** @param array<string, string> $personal FieldPlace::key() → why; such values are not kept */
    public function ask(KeptTrial $kept, Ground $ground, Rows $rows, array $personal): void
    {
        $before = ['state' => $kept->state, 'words' => $kept->words, 'plan' => $kept->plan, 'answer' => $kept->answer];
        $asked = AskedTrial::of($kept->trial(), $ground, $rows, $personal);
        $kept->state = $asked->state;
        $kept->words = $asked->words;
        if (KeptTrial::FAILED !== $asked->state) {
            $kept->plan = $asked->plan;
            $kept->answer = $asked->answer;
        }
        $kept->askedAt = new \DateTimeImmutable();
        $this->differs($kept, $before);
    }

    /** @param array{state: string, words: string, plan: string, answer: array<string, mixed>|null} $before */
    private function differs(KeptTrial $kept, array $before): void
    {
        if (KeptTrial::UNASKED === $before['state']) {
            return;
        }
        $what = [];
        if ($before['state'] !== $kept->state) {
            $what[] = 'state';
        }
        if ($before['plan'] !== $kept->plan) {
            $what[] = 'plan';
        }
        if (($before['answer']['fingerprint'] ?? '') !== ($kept->answer['fingerprint'] ?? '')) {
            $what[] = 'answer';
        }
        if ([] !== $what) {
            $kept->changed = [
                'what' => $what,
                'on' => (new \DateTimeImmutable())->format('Y-m-d H:i:s'),
                'state' => $before['state'],
                'words' => $before['words'],
                'plan' => $before['plan'],
                'answer' => $before['answer'],
            ];
        }
    }
}
