<?php

declare(strict_types=1);

namespace Fasti\Term;

use Fasti\Register\Standing;
use Fasti\Register\Topic\EntryTopic;
use Fasti\Register\Topic\FieldTopic;
use Fasti\Term\Topic\TermTopic;
use Fasti\Text\Editor;
use Fasti\Text\Properties;
use Fasti\Text\Property;

/** What people write of the terms of the glossary, and which terms things belong to. */
final readonly class TermProperties implements Properties
{
    public function __construct(private Terms $terms)
    {
    }

    public function all(): iterable
    {
        $known = fn (string $value, int $id) => $this->terms->checkNames($value, $id);
        foreach ([EntryTopic::NAME, FieldTopic::NAME] as $of) {
            yield new Property(
                $of, 'terms', most: 1000, blank: 'terms of the glossary, with commas between', shownAmongFacts: true,
                check: fn (string $value) => $this->terms->checkNames($value, 0),
            );
        }
        $topic = TermTopic::NAME;
        yield new Property(
            $topic, 'area', 'area in which the word means this', 120, 'area', blank: 'everywhere',
            check: fn (string $value, int $id) => $this->terms->checkName(null, $value, $id),
        );
        yield new Property($topic, 'broader', 'broader terms', 2000, 'broader', blank: 'of what is it a kind or a part?', check: $known);
        yield new Property($topic, 'definition', column: 'definition', editor: Editor::Long, blank: 'What is meant by it here?');
        yield new Property($topic, 'name', 'term', 190, 'name', check: fn (string $value, int $id) => $this->terms->checkName($value, null, $id));
        yield new Property($topic, 'owner', 'owner of the definition', 120, 'owner', blank: 'who decides what it means?');
        yield new Property($topic, 'related', 'related terms', 2000, 'related', blank: 'which terms belong with it?', check: $known);
        yield Standing::property($topic);
        yield new Property($topic, 'synonyms', 'other words for it', 2000, 'synonyms', blank: 'other words, with commas between');
    }
}
