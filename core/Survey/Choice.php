<?php

declare(strict_types=1);

namespace Fasti\Core\Survey;

use Fasti\Core\Catalog\Place;

/**
 * Which schemas and objects of a source are read.
 *
 * A pattern is matched against the name, or, when it holds a dot, against the place as Place writes it too: `schema.name`,
 * with a part in quotation marks that holds a dot itself. `*` stands for any characters
 * and `?` for one; letters match in either case. An empty list of schemas means all, an empty include means all;
 * exclude wins.
 */
final readonly class Choice
{
    /** @var list<string> */
    private array $includeRegexes;
    /** @var list<string> */
    private array $excludeRegexes;

    /**
     * @param list<string> $schemas
     * @param list<string> $include
     * @param list<string> $exclude
     */
    public function __construct(public array $schemas = [], public array $include = [], public array $exclude = [])
    {
        $this->includeRegexes = array_map(self::regex(...), $include);
        $this->excludeRegexes = array_map(self::regex(...), $exclude);
    }

    public function takesSchema(string $schema): bool
    {
        return [] === $this->schemas || \in_array($schema, $this->schemas, true);
    }

    public function takes(string $schema, string $name): bool
    {
        return $this->takesSchema($schema)
            && ([] === $this->include || self::matches($this->include, $this->includeRegexes, $schema, $name))
            && !self::matches($this->exclude, $this->excludeRegexes, $schema, $name);
    }

    /**
     * @param list<string> $patterns
     * @param list<string> $regexes
     */
    private static function matches(array $patterns, array $regexes, string $schema, string $name): bool
    {
        $place = new Place($schema, $name);
        foreach ($regexes as $i => $regex) {
            if (1 === preg_match($regex, $name) || (str_contains($patterns[$i], '.') && 1 === preg_match($regex, (string) $place))) {
                return true;
            }
        }

        return false;
    }

    private static function regex(string $pattern): string
    {
        return '/^'.strtr(preg_quote($pattern, '/'), ['\*' => '.*', '\?' => '.']).'$/siu';
    }
}
