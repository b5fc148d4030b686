<?php

declare(strict_types=1);

namespace Fasti\Core\Design;

/** Things, what is known of them, how they are connected, and by which rules tables follow from that. */
final readonly class Design
{
    use \Fasti\Core\Catalog\With;

    /**
     * @param string             $engine    the dialect of its physical depth; '' while none is chosen
     * @param string             $begun     the source that it began with: it is compared with it
     * @param list<Thing>        $things
     * @param list<DesignJoin>   $joins
     * @param list<ValueList>    $lists
     * @param list<OpenQuestion> $questions
     * @param list<SqlBlock>     $blocks
     * @param list<DesignView>   $views
     * @param ?string            $sorted    how texts are sorted where nothing else is said, in the word of the engine
     */
    public function __construct(
        public string $name = '',
        public string $purpose = '',
        public string $engine = '',
        public string $begun = '',
        public Rules $rules = new Rules(),
        public array $things = [],
        public array $joins = [],
        public array $lists = [],
        public array $questions = [],
        public array $blocks = [],
        public array $views = [],
        public ?string $sorted = null,
    ) {
    }

    public function thing(string $name): ?Thing
    {
        $key = Names::key($name);
        foreach ($this->things as $thing) {
            if (Names::key($thing->name) === $key) {
                return $thing;
            }
        }

        return null;
    }

    public function valueList(string $name): ?ValueList
    {
        foreach ($this->lists as $list) {
            if (Names::key($list->name) === Names::key($name)) {
                return $list;
            }
        }

        return null;
    }
}
