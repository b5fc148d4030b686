<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Edits;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelLimits;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Fasti\Model\Topic\ModelTopic;
use Fasti\Model\Topic\TrialTopic;
use Fasti\Text\BadText;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/**
 * What people write of models and of the trials that are kept with them; and what models offer: roles, joins, measures, hierarchies and choices as
 * one JSON text, so that a change can be taken back whole.
 */
final readonly class ModelProperties implements Properties
{
    public const DEFINITION = 'definition';
    public const QUESTION = 'question';

    public function __construct(private Models $models)
    {
    }

    public function all(): iterable
    {
        $topic = ModelTopic::NAME;
        yield new Property(
            $topic, self::DEFINITION, 'what it offers', 4000000, self::DEFINITION, check: self::isModel(...), inWords: self::inWords(...),
        );
        yield from $this->models->properties('Which questions is it for?');
        yield from self::ofTrials(TrialTopic::NAME);
    }

    /** @return iterable<Property> */
    private static function ofTrials(string $topic): iterable
    {
        yield new Property($topic, 'name', 'what a kept trial asks', 160, 'name', check: static function (string $value): void {
            if ('' === trim($value)) {
                throw new BadText('Say in up to 160 characters what is asked; the trial is found again by that.');
            }
        });
        yield new Property($topic, 'neededBy', 'who needs a kept trial', 200, 'needed_by');
        yield new Property($topic, 'expected', 'what was expected of a kept trial', column: 'expected');
        yield new Property(
            $topic, self::QUESTION, 'the question of a kept trial', 60000, 'question', check: self::isQuestion(...),
            inWords: static fn (string $before, string $after): string => \sprintf(
                '%s; it was: %s', TrialWords::of(KeptTrial::trialOf($after)), TrialWords::of(KeptTrial::trialOf($before)),
            ),
        );
        $choice = static fn (string $name, string $label, string $column, string $no, string $yes): Property => new Property(
            $topic, $name, $label, 1, $column, Editor::Choice, choices: [$no, $yes],
            inWords: static fn (string $before, string $after): string => '1' === $after ? $yes : $no,
        );
        yield $choice('rowsPublished', 'rows of a kept trial', 'rows_published', 'its rows stay out of editions', 'its rows go into editions');
        yield $choice('removed', 'a kept trial', 'removed', 'kept again', 'kept no more');
    }

    private static function isQuestion(string $value): void
    {
        try {
            $data = json_decode($value, true, 64, \JSON_THROW_ON_ERROR);
            $asked = \is_array($data) ? OpenForm::read(Trial::class, $data)->shown() : [];
        } catch (\JsonException|\InvalidArgumentException $e) {
            throw new BadText('A question is kept as JSON, and this is none.', 0, $e);
        }
        if ([] === $asked) {
            throw new BadText('A kept trial asks for a measure or more, and this one for none.');
        }
    }

    private static function isModel(string $value): void
    {
        if (!\is_array(json_decode($value, true))) {
            throw new BadText('What a model offers is kept as JSON, and this is none.');
        }
        try {
            ModelLimits::check(KeptModel::modelOf($value));
        } catch (ModelError $e) {
            throw new BadText($e->getMessage(), 0, $e);
        }
    }

    private static function inWords(string $before, string $after): string
    {
        $words = Edits::between(KeptModel::modelOf($before), KeptModel::modelOf($after));

        return [] === $words ? 'changed nothing that is told apart' : implode('; ', \array_slice($words, 0, 6)).(\count($words) > 6 ? ' …' : '');
    }
}
