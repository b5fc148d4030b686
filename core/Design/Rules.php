<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/**
 * How tables follow from things. Each rule has its sentence for each of its settings, which is what the outline says; one that the
 * outline does not say is set as usual.
 */
final readonly class Rules
{
    use \Fasti\Core\Catalog\With;

    /** Rules that bring fields, which may be called otherwise. */
    public const BRING = ['times' => 2, 'people' => 2, 'version' => 1];

    /** rule → what it is about, then setting → its sentence. The first setting is the usual one. */
    public const ALL = [
        'keys' => ['Keys of things', [
            'number' => 'keys are numbers of their own',
            'natural' => 'keys are what tells things apart',
            'uuid' => 'keys are UUIDs of their own',
        ]],
        'keyName' => ['Names of such keys', ['id' => 'keys of their own are called id', 'thing' => 'keys of their own are called after the thing']],
        'links' => ['Links', ['both' => 'links are told apart by both ends', 'number' => 'links have a key of their own']],
        'deleting' => ['Deleting a parent', [
            'refused' => 'deleting a parent is refused',
            'in the end' => 'deleting a parent is refused in the end',
            'deletes' => 'deleting a parent deletes its children',
            'empties' => 'deleting a parent empties its children',
        ]],
        'changing' => ['Changing a key', [
            'in the end' => 'changing a key is refused in the end',
            'refused' => 'changing a key is refused',
            'follows' => 'changing a key changes its children',
        ]],
        'lists' => ['Lists of values', [
            'conditions' => 'lists of values are conditions',
            'tables' => 'lists of values are tables',
            'types' => 'lists of values are types of the engine',
        ]],
        'kinds' => ['Kinds of a thing', [
            'both' => 'kinds add a table to that of the whole',
            'one' => 'kinds share the table of the whole',
            'each' => 'kinds have a table each, and the whole has none',
        ]],
        'style' => ['Names', [
            'snake' => 'names are in small letters with underscores',
            'capitals' => 'names are in capitals with underscores',
            'camel' => 'names are run together with a small letter first',
            'pascal' => 'names are run together with a capital first',
            'plain' => 'names stand as they are written',
        ]],
        'number' => ['Names of tables', ['singular' => 'tables are named in the singular', 'plural' => 'tables are named in the plural']],
        'short' => ['Abbreviations', ['long' => 'names are written out', 'short' => 'names are abbreviated']],
        'times' => ['When', ['no' => 'rows do not say when they were written', 'yes' => 'rows say when they were made and changed']],
        'people' => ['Who', ['no' => 'rows do not say who wrote them', 'yes' => 'rows say who made and changed them']],
        'version' => ['Versions', ['no' => 'rows do not count their changes', 'yes' => 'rows count their changes']],
        'indexes' => ['Indexes', ['yes' => 'what leads elsewhere has an index', 'no' => 'what leads elsewhere has no index of its own']],
    ];

    /**
     * @param array<string, string>       $set    rule → setting, those that were decided
     * @param array<string, list<string>> $called rule → what the fields are called that it brings, where that was decided
     * @param array<string, string>       $filled rule → the SQL by which those fields are filled
     */
    public function __construct(
        public array $set = [],
        public string $prefix = '',
        public ?int $longest = null,
        public array $called = [],
        public array $filled = [],
    ) {
    }

    public function of(string $rule): string
    {
        return $this->set[$rule] ?? self::usual($rule);
    }

    public function is(string $rule, string $setting): bool
    {
        return $this->of($rule) === $setting;
    }

    public static function usual(string $rule): string
    {
        return (string) array_key_first(self::ALL[$rule][1] ?? throw new \LogicException("There is no rule $rule."));
    }

    public static function sentence(string $rule, string $setting): string
    {
        return self::ALL[$rule][1][$setting] ?? throw new \LogicException("The rule $rule has no setting $setting.");
    }

    public function set(string $rule, string $setting): self
    {
        self::sentence($rule, $setting);

        return $this->with(set: [$rule => $setting] + $this->set);
    }

    /** @return array{string, string}|null the rule and the setting that a sentence says */
    public static function said(string $sentence): ?array
    {
        foreach (self::ALL as $rule => [, $settings]) {
            $setting = array_search($sentence, $settings, true);
            if (false !== $setting) {
                return [$rule, $setting];
            }
        }

        return null;
    }
}
