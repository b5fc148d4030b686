<?php

declare(strict_types=1);

namespace Fasti\Lineage;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\FieldPlace;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Lineage\Steps;
use Fasti\Core\Sql\Layout;
use Fasti\Core\Sql\ReadField;
use Fasti\Core\Sql\Reading;
use Fasti\Core\Sql\Unknown;
use Fasti\Support\Batch;

/** Makes what is kept and shown of a reading. */
final readonly class ReadingMaker
{
    private Steps $steps;
    private Grammar $dialect;

    public function __construct(Catalog $catalog)
    {
        $this->steps = new Steps($catalog);
        $this->dialect = Dialects::ofCatalog($catalog)->grammar() ?? new Grammar();
    }

    public function of(Reading $reading): ViewReading
    {
        $steps = $this->steps->of($reading);

        return new ViewReading(
            $steps,
            array_map(static fn (ReadField $field): string => $field->name, $reading->fields),
            array_map(fn (ReadField $field): string => Layout::expression($field->expression, $this->dialect), $reading->fields),
            array_map(static fn (Unknown $unknown): string => $unknown->place($reading->text), $reading->unknown),
            array_map(static fn (Unknown $unknown): string => $unknown->what, $reading->unknown),
            array_map(static fn (array $line): string => Batch::json([$line[0], array_map(
                static fn (array $piece): array => match (true) {
                    null === $piece[2] => [$piece[0], $piece[1]],
                    $piece[2] instanceof FieldPlace => [
                        $piece[0],
                        $piece[1],
                        $piece[2]->schema,
                        $piece[2]->table,
                        $piece[2]->column,
                    ],
                    default => [$piece[0], $piece[1], $piece[2]->schema, $piece[2]->name],
                },
                $line[1],
            )]), Layout::of($reading, $this->dialect)),
            $this->steps->key,
        );
    }
}
