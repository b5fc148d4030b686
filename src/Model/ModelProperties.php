<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Model\Edits;
use Fasti\Core\Model\ModelError;
use Fasti\Core\Model\ModelLimits;
use Fasti\Model\Topic\ModelTopic;
use Fasti\Text\BadText;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/**
 * What people write of models, and what these offer: roles, joins, measures, hierarchies and choices as one JSON text, so that a change can be
 * taken back whole.
 */
final readonly class ModelProperties implements Properties
{
    public const DEFINITION = 'definition';

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
