<?php

declare(strict_types=1);

namespace Fasti\Core\Script;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\Inventory;
use Fasti\Core\Survey\Progress;
use Fasti\Core\Survey\Reader;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;

/** Reads the structure that a script of SQL would make. What cannot be read is said with its line; the rest comes in. */
final class ScriptReader implements Reader
{
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
        $encoding = Encoding::of((string) fread($stream, 1 << 16));
        $stream = $encoding->opened($stream);
        $head = (string) fread($stream, 1 << 16);
        self::looksLikeScript($head, $file);
        $told = null === $this->dialect ? Dialects::detected($head.self::more($stream)) : null;
        $dialect = $this->dialect ?? $told->grammar ?? throw new \LogicException('A script has a dialect.');
        fseek($stream, str_starts_with($head, "\xEF\xBB\xBF") ? 3 : 0);
        $size = (int) (fstat($stream)['size'] ?? 0);
        $script = new Script($dialect, $this->schema);
        $understanding = new Understanding($file);
        foreach (new Statements($stream, $dialect) as [$text, $line, $whole]) {
            $progress->at('the script', (int) ftell($stream), $size);
            $text = $encoding->utf8($text);
            $script->carry($text, $line, $whole, $understanding);
        }
        fclose($stream);
        $notes = array_values(array_filter(
            [...$understanding->notes(), $encoding->inWords($file), null !== $told?->instead || [] === $told?->by ? $told->inWords() : null],
            is_string(...),
        ));
        $catalog = $script->catalog($notes, $dialect->label.' script')->with(statements: $understanding->figures($script, $told?->inWords() ?? ''));
        if ([] === $catalog->tables && [] === $catalog->routines) {
            throw new SourceError(
                \sprintf('The script “%s” makes no table and no view.', $file),
                [] !== $understanding->faults ? $understanding->notes()[0]
                    : 'It was read as '.$dialect->label.'. If it is of another dialect, name that; if it holds data only, hand in the script with the '
                    .'structure.',
            );
        }

        return $catalog;
    }

    /**
     * Some of what stands further on: the beginning of a dump may hold nothing but rows.
     *
     * @param resource $stream
     */
    private static function more(mixed $stream): string
    {
        $size = (int) (fstat($stream)['size'] ?? 0);
        $found = '';
        for ($i = 1; $i <= 4 && $size > 1 << 17; ++$i) {
            fseek($stream, (int) ($size * $i / 5));
            fgets($stream, 1 << 15);
            $found .= "\n".fread($stream, 1 << 15);
        }

        return $found;
    }

    private static function looksLikeScript(string $head, string $file): void
    {
        if ('' === trim(str_replace("\xEF\xBB\xBF", '', $head))) {
            throw new SourceError(\sprintf('The script “%s” is empty.', $file), 'Hand in one with the CREATE statements.');
        }
        $what = self::ofAnEngine($head) ?? match (true) {
            str_starts_with($head, 'PK') => 'a zip archive',
            str_starts_with($head, "\x1f\x8b") => 'a gzip archive',
            str_contains($head, "\0") => 'a binary file',
            1 === preg_match('/^\s*[\[{]/', $head) => 'JSON',
            default => null,
        };
        if (null !== $what) {
            throw new SourceError(
                \sprintf('“%s” is not a script of SQL but looks like %s.', $file, $what),
                'Hand it in as what it is, or give it the ending that says so.',
            );
        }
    }

    private static function ofAnEngine(string $head): ?string
    {
        foreach (Dialects::all() as $dialect) {
            foreach ($dialect->heads() as $begins => $what) {
                if (str_starts_with($head, $begins)) {
                    return $what;
                }
            }
        }

        return null;
    }
}
