<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Sql\SqlFault;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;

/** Reads the structure that a script of SQL would make. What cannot be read is said with its line; the rest comes in. */
final class ScriptReader implements Reader
{
    private const MOST_FAULTS = 50;
    private ?Catalog $whole = null;

    /**
     * @param string $schema for objects whose schema neither the script nor the dialect says
     */
    public function __construct(private readonly string $path, private readonly ?Grammar $dialect = null, private readonly string $schema = '')
    {
    }

    public function inventory(): Inventory
    {
        $catalog = $this->whole(new SilentProgress());
        $schemas = [];
        foreach ($catalog->tables as $table) {
            $schemas[$table->schema][$table->name] = $table->kind->value;
        }

        return new Inventory($catalog->server, $schemas);
    }

    public function read(Choice $choice, Progress $progress): Catalog
    {
        $catalog = $this->whole($progress);

        return $catalog->with(
            tables: array_values(array_filter($catalog->tables, static fn ($table): bool => $choice->takes($table->schema, $table->name))),
            routines: array_values(array_filter($catalog->routines, static fn ($routine): bool => $choice->takesSchema($routine->schema))),
        );
    }

    private function whole(Progress $progress): Catalog
    {
        return $this->whole ??= $this->parse($progress);
    }

    private function parse(Progress $progress): Catalog
    {
        $file = basename($this->path);
        $stream = @fopen($this->path, 'r');
        if (false === $stream) {
            throw new SourceError(\sprintf('The script “%s” could not be opened.', $file), 'Check that it is there and may be read.');
        }
        $head = (string) fread($stream, 1 << 16);
        self::looksLikeScript($head, $file);
        $dialect = $this->dialect ?? Dialects::guess($head);
        fseek($stream, str_starts_with($head, "\xEF\xBB\xBF") ? 3 : 0);
        $size = (int) (fstat($stream)['size'] ?? 0);
        $script = new Script($dialect, $this->schema);
        $faults = [];
        $broken = $statements = 0;
        foreach (new Statements($stream, $dialect) as [$text, $line, $ended]) {
            ++$statements;
            $progress->at('the script', (int) ftell($stream), $size);
            if (!mb_check_encoding($text, 'UTF-8')) {
                ++$broken;
                $text = mb_convert_encoding($text, 'UTF-8', 'Windows-1252');
            }
            try {
                $script->statement($text);
            } catch (SqlFault $e) {
                $at = $line + substr_count($text, "\n", 0, min($e->offset, \strlen($text)));
                $faults[] = \sprintf('%s, line %d: %s. This statement was left out: %s', $file, $at, $e->getMessage(), mb_strimwidth((string) preg_replace('/\s+/', ' ', $text), 0, 90, '…')).($ended ? '' : ' The script breaks off within it.');
            }
        }
        fclose($stream);
        $notes = \array_slice($faults, 0, self::MOST_FAULTS);
        if (\count($faults) > self::MOST_FAULTS) {
            $notes[] = \sprintf('%d more statements of %s could not be read.', \count($faults) - self::MOST_FAULTS, $file);
        }
        if ($broken > 0) {
            $notes[] = \sprintf('%s: %d %s not in UTF-8 and %s read as Windows-1252. Save the script as UTF-8 if letters look wrong.', $file, $broken, 1 === $broken ? 'statement is' : 'statements are', 1 === $broken ? 'was' : 'were');
        }
        if ([] !== $script->skipped) {
            arsort($script->skipped);
            $notes[] = \sprintf('%s: %d of %d statements say nothing about structure and were passed over (%s).', $file, array_sum($script->skipped), $statements, implode(', ', array_map(static fn (string $word, int $count): string => "$count $word", array_keys(\array_slice($script->skipped, 0, 6)), \array_slice($script->skipped, 0, 6))));
        }
        $catalog = $script->catalog($notes, $dialect->label.' script');
        if ([] === $catalog->tables) {
            throw new SourceError(
                \sprintf('The script “%s” makes no table and no view.', $file),
                [] !== $faults ? $faults[0] : 'It was read as '.$dialect->label.'. If it is of another dialect, name that; if it holds data only, hand in the script with the structure.',
            );
        }

        return $catalog;
    }

    private static function looksLikeScript(string $head, string $file): void
    {
        if ('' === trim($head)) {
            throw new SourceError(\sprintf('The script “%s” is empty.', $file), 'Hand in one with the CREATE statements.');
        }
        if (str_starts_with($head, "\xFF\xFE") || str_starts_with($head, "\xFE\xFF")) {
            throw new SourceError(\sprintf('The script “%s” is in UTF-16.', $file), 'Save it as UTF-8 and hand it in again.');
        }
        $what = match (true) {
            str_starts_with($head, 'SQLite format 3') => 'an SQLite database',
            str_starts_with($head, 'PK') => 'a zip archive',
            str_starts_with($head, "\x1f\x8b") => 'a gzip archive',
            str_starts_with($head, 'PGDMP') => 'a dump in PostgreSQL\'s own format; write it with the plain format',
            str_contains($head, "\0") => 'a binary file',
            1 === preg_match('/^\s*[\[{]/', $head) => 'JSON',
            default => null,
        };
        if (null !== $what) {
            throw new SourceError(\sprintf('“%s” is not a script of SQL but looks like %s.', $file, $what), 'Hand it in as what it is, or give it the ending that says so.');
        }
    }
}
