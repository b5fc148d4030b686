<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\DBAL\ArrayParameterType;
use Doctrine\DBAL\Connection;
use Fasti\Core\Diagram\Detail;
use Fasti\Core\Diagram\PlacingError;
use Fasti\Core\Diagram\SvgDrawing;
use Fasti\Core\Diagram\TitleBlock;
use Fasti\Core\Edition\Slug;
use Fasti\Core\Wording\Amount;
use Fasti\Core\Wording\Naming as Words;
use Fasti\Diagram\RegisterDiagram;
use Fasti\Register\Entries;
use Fasti\Register\EntryView;
use Fasti\Support\Row;
use Symfony\Component\Filesystem\Filesystem;
use Twig\Environment;

/**
 * Writes an edition as a folder of plain HTML that works from disk. Everything is read inside one snapshot of the
 * database, a few dozen entries at a time, so that memory does not grow with their number.
 */
final class Site
{
    private const BATCH = 40;
    private const NEIGHBOURS = 24;

    private string $folder = '';
    /** @var array<int, string> entry → address below the root, for entries met in this batch */
    private array $addresses = [];
    /** @var array<string, resource> */
    private array $open = [];

    public function __construct(
        private readonly Connection $db,
        private readonly Entries $entries,
        private readonly Environment $twig,
        private readonly string $projectDir,
    ) {
    }

    /**
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     * @param list<int>                    $scope    sources; empty for all
     * @param callable(int, int): void     $progress entries done, entries in all
     *
     * @return array{entries: int, fields: int, described: int, sources: list<string>, pages: int}
     */
    public function write(string $folder, array $about, array $scope, callable $progress): array
    {
        $this->folder = $folder;
        $files = new Filesystem();
        $files->mkdir($folder);
        $this->assets($files);
        // Repeatable reads: everything below sees the register as it is at the first query.
        $this->db->beginTransaction();
        try {
            return $this->pages($about, $scope, $progress);
        } finally {
            $this->db->rollBack();
            foreach ($this->open as $handle) {
                fclose($handle);
            }
            $this->open = [];
            $this->addresses = [];
        }
    }

    /**
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     * @param list<int>                $scope
     * @param callable(int, int): void $progress
     *
     * @return array{entries: int, fields: int, described: int, sources: list<string>, pages: int}
     */
    private function pages(array $about, array $scope, callable $progress): array
    {
        $sources = $this->db->fetchAllAssociative(
            'SELECT s.id, s.name, s.purpose, s.owner, s.surveyed_at, COUNT(e.id) AS entries, COALESCE(SUM(e.field_count), 0) AS fields, COALESCE(SUM(e.described_count), 0) AS described
             FROM source s JOIN entry e ON e.source_id = s.id AND e.gone_at IS NULL WHERE ? OR s.id IN (?) GROUP BY s.id ORDER BY s.name',
            [[] === $scope ? 1 : 0, [] === $scope ? [0] : $scope], [1 => ArrayParameterType::INTEGER]);
        $total = array_sum(array_map(static fn (array $source): int => Row::int($source, 'entries'), $sources));
        $counts = ['entries' => $total, 'fields' => 0, 'described' => 0, 'sources' => [], 'pages' => 1];
        $done = 0;
        $listed = [];
        fwrite($this->file('search.js'), "window.fastiSearch=[\n");
        foreach ($sources as $source) {
            $slug = Slug::of(Row::text($source, 'name'));
            $listed[] = $source + ['slug' => $slug];
            $counts['sources'][] = Row::text($source, 'name');
            $counts['fields'] += Row::int($source, 'fields');
            $counts['described'] += Row::int($source, 'described');
            $index = [];
            $after = ['', ''];
            $last = null;
            while (true) {
                // One more than the batch: the neighbour that the last page of the batch leads on to.
                $rows = $this->db->fetchAllAssociative('SELECT id, schema_name, name FROM entry WHERE source_id = ? AND gone_at IS NULL AND (schema_name > ? OR (schema_name = ? AND name > ?)) ORDER BY schema_name, name LIMIT '.(self::BATCH + 1), [Row::int($source, 'id'), $after[0], $after[0], $after[1]]);
                if ([] === $rows) {
                    break;
                }
                $next = \count($rows) > self::BATCH ? array_pop($rows) : null;
                $ids = array_map(static fn (array $row): int => Row::int($row, 'id'), $rows);
                $views = $this->entries->load($ids);
                $near = $this->neighbours($views);
                foreach ($views as $i => $view) {
                    $this->entryPage($about, $view, $near, $last, $views[$i + 1] ?? $next);
                    $last = $view;
                    $index[$view->schema][] = ['name' => $view->name, 'title' => $view->title, 'grain' => $view->grain, 'kind' => $view->facts->kind->value, 'percent' => $view->percent(), 'described' => $view->describedCount, 'fields' => $view->fieldCount, 'path' => Slug::of($view->schema).'/'.Slug::of($view->name).'.html'];
                    $this->listed($view, $slug);
                    ++$done;
                    ++$counts['pages'];
                }
                $progress($done, $total);
                $after = [$views[\count($views) - 1]->schema, $views[\count($views) - 1]->name];
                if (null === $next) {
                    break;
                }
            }
            $diagrams = $this->diagrams($about, $source, $slug, array_keys($index));
            $this->put("$slug/index.html", $this->page('edition/source.html.twig', $about, "$slug/index.html", ['source' => $source, 'schemas' => $index, 'diagrams' => $diagrams]));
            $counts['pages'] += 1 + \count($diagrams);
        }
        fwrite($this->file('search.js'), "];\n");
        $letters = $this->letters($about);
        $counts['pages'] += \count($letters) + 1;
        $this->put('fields/index.html', $this->page('edition/fields.html.twig', $about, 'fields/index.html', ['letters' => $letters, 'letter' => null, 'rows' => '']));
        $this->put('index.html', $this->page('edition/front.html.twig', $about, 'index.html', ['sources' => $listed, 'counts' => $counts]));
        $this->put('edition.json', json_encode(['made by' => 'Fasti', 'number' => $about['number'], 'title' => $about['title'], 'date' => $about['date']] + $counts, \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE));

        return $counts;
    }

    /**
     * Entries joined with those of a batch, so that small diagrams can show them.
     *
     * @param list<EntryView> $views
     *
     * @return array<int, EntryView>
     */
    private function neighbours(array $views): array
    {
        $near = $missing = [];
        foreach ($views as $view) {
            $near[$view->id] = $view;
        }
        foreach ($views as $view) {
            foreach (\array_slice($view->joins, 0, self::NEIGHBOURS) as $join) {
                if (!isset($near[$join->otherId()])) {
                    $missing[$join->otherId()] = $join->otherId();
                }
            }
        }
        foreach (array_chunk(array_values($missing), self::BATCH) as $chunk) {
            foreach ($this->entries->load($chunk, false) as $view) {
                $near[$view->id] = $view;
            }
        }
        $this->addresses = [];
        foreach ($near as $view) {
            $this->addresses[$view->id] = self::address($view);
        }

        return $near;
    }

    private static function address(EntryView $view): string
    {
        return Slug::of($view->sourceName).'/'.Slug::of($view->schema).'/'.Slug::of($view->name).'.html';
    }

    /**
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     * @param array<int, EntryView>               $near
     * @param EntryView|array<string, mixed>|null $next
     */
    private function entryPage(array $about, EntryView $view, array $near, ?EntryView $last, EntryView|array|null $next): void
    {
        $members = [$view->id => $view];
        foreach ($view->joins as $join) {
            if (\count($members) <= self::NEIGHBOURS && isset($near[$join->otherId()])) {
                $members[$join->otherId()] = $near[$join->otherId()];
            }
        }
        $svg = '';
        if (\count($members) > 1) {
            $layout = RegisterDiagram::draw(array_values($members), Detail::Keys, true, [], fn (int $id): string => '../../'.($this->addresses[$id] ?? 'index.html'), $view->id);
            $svg = SvgDrawing::draw($layout, new TitleBlock($view->title, 'What it joins', $view->sourceName, '', $about['date'], 'Edition '.$about['number']));
        }
        $neighbour = static fn (string $schema, string $name): array => ['name' => $name, 'path' => Slug::of($schema).'/'.Slug::of($name).'.html'];
        $before = null === $last ? null : $neighbour($last->schema, $last->name);
        $after = null === $next ? null : ($next instanceof EntryView ? $neighbour($next->schema, $next->name) : $neighbour(Row::text($next, 'schema_name'), Row::text($next, 'name')));
        $path = self::address($view);
        $this->put($path, $this->page('edition/entry.html.twig', $about, $path, ['entry' => $view, 'svg' => $svg, 'addresses' => $this->addresses, 'before' => $before, 'after' => $after]));
    }

    /** Adds an entry and its fields to the search file and to the list of fields of each letter. */
    private function listed(EntryView $view, string $slug): void
    {
        $path = self::address($view);
        $fields = [];
        foreach ($view->fields as $field) {
            if ($field->gone) {
                continue;
            }
            $anchor = Slug::of($field->name);
            $fields[] = [$field->name, $field->businessName, mb_substr($field->meaning, 0, 160), ...($anchor === $field->name ? [] : [$anchor])];
            $letter = strtolower(substr(Words::folded($field->name), 0, 1));
            $letter = 1 === preg_match('/[a-z]/', $letter) ? $letter : 'other';
            fwrite($this->file("fields/$letter.tsv"), implode("\t", [Words::folded($field->name), $field->name, $path.'#'.Slug::of($field->name), str_replace(["\t", "\n"], ' ', $view->schema.'.'.$view->name), $field->businessName, str_replace(["\t", "\n"], ' ', $field->typeWords), str_replace(["\t", "\n"], ' ', mb_substr($field->meaning, 0, 200))])."\n");
        }
        fwrite($this->file('search.js'), json_encode([$view->name, $view->title, $view->sourceName.' · '.$view->schema, $path, mb_substr($view->meaning, 0, 200), $fields], \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_INVALID_UTF8_SUBSTITUTE).",\n");
    }

    /**
     * Turns the lists of fields into pages.
     *
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     *
     * @return list<string>
     */
    private function letters(array $about): array
    {
        $letters = [];
        foreach ([...range('a', 'z'), 'other'] as $letter) {
            if (isset($this->open["fields/$letter.tsv"])) {
                $letters[] = $letter;
            }
        }
        foreach ($letters as $letter) {
            fclose($this->open["fields/$letter.tsv"]);
            unset($this->open["fields/$letter.tsv"]);
            $file = $this->folder."/fields/$letter.tsv";
            $lines = file($file, \FILE_IGNORE_NEW_LINES);
            $lines = false === $lines ? [] : $lines;
            sort($lines, \SORT_STRING);
            [$head, $tail] = explode('<!--rows-->', $this->page('edition/fields.html.twig', $about, "fields/$letter.html", ['letters' => $letters, 'letter' => $letter, 'rows' => '<!--rows-->']), 2);
            $out = fopen($this->folder."/fields/$letter.html", 'w') ?: throw new \RuntimeException("The page of the letter $letter cannot be written.");
            fwrite($out, $head);
            $e = static fn (string $text): string => htmlspecialchars($text, \ENT_QUOTES);
            foreach ($lines as $line) {
                [, $name, $path, $entry, $business, $type, $meaning] = explode("\t", $line) + array_fill(0, 7, '');
                fwrite($out, \sprintf("<tr><th scope=\"row\"><a class=\"code\" href=\"../%s\">%s</a><span class=\"faded\">%s</span></th><td class=\"code\">%s</td><td>%s</td><td>%s</td></tr>\n", $e($path), $e($name), $e($business), $e($entry), $e($type), $e($meaning)));
            }
            fwrite($out, $tail);
            fclose($out);
            unlink($file);
        }

        return $letters;
    }

    /**
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     * @param array<string, mixed> $source
     * @param list<string>         $schemas
     *
     * @return list<array{name: string, path: string, entries: int}>
     */
    private function diagrams(array $about, array $source, string $slug, array $schemas): array
    {
        $made = [];
        $all = $this->db->fetchAllAssociative('SELECT id, schema_name FROM entry WHERE source_id = ? AND gone_at IS NULL ORDER BY schema_name, name', [Row::int($source, 'id')]);
        $wanted = \count($schemas) > 1 ? [null, ...$schemas] : [null];
        foreach ($wanted as $schema) {
            $ids = [];
            foreach ($all as $row) {
                if (null === $schema || Row::text($row, 'schema_name') === (string) $schema) {
                    $ids[] = Row::int($row, 'id');
                }
            }
            if ([] === $ids || \count($ids) > RegisterDiagram::MOST / 2) {
                continue;
            }
            $name = null === $schema ? Row::text($source, 'name') : (string) $schema;
            $path = null === $schema ? "$slug/diagram.html" : "$slug/".Slug::of((string) $schema).'/diagram.html';
            $up = null === $schema ? '../' : '../../';
            $views = $this->entries->load($ids);
            foreach ($views as $view) {
                $this->addresses[$view->id] = self::address($view);
            }
            try {
                $layout = RegisterDiagram::draw($views, \count($ids) > 90 ? Detail::Names : Detail::Keys, true, [], fn (int $id): string => $up.($this->addresses[$id] ?? 'index.html'));
            } catch (PlacingError) {
                continue;
            }
            $svg = SvgDrawing::draw($layout, new TitleBlock($name, 'All entries and how they join', Row::text($source, 'name'), $about['by'], $about['date'], \sprintf('Edition %d · %s, %s', $about['number'], Amount::of(\count($ids), 'entry'), Amount::of(\count($layout->paths), 'join'))));
            $this->put($path, $this->page('edition/diagram.html.twig', $about, $path, ['name' => $name, 'svg' => $svg, 'source' => $source]));
            $made[] = ['name' => $name, 'path' => substr($path, \strlen($slug) + 1), 'entries' => \count($ids)];
        }

        return $made;
    }

    private function assets(Filesystem $files): void
    {
        $build = $this->projectDir.'/public/build';
        $manifest = json_decode((string) file_get_contents($build.'/manifest.json'), true);
        foreach (['edition.css', 'edition.js', 'theme.js'] as $name) {
            $built = \is_array($manifest) ? $manifest['build/'.$name] ?? null : null;
            if (!\is_string($built)) {
                throw new \RuntimeException('The styles and scripts are not built yet. Run bin/prepare.');
            }
            $files->copy($this->projectDir.'/public/'.$built, $this->folder.'/assets/'.$name);
        }
        $files->mirror($build.'/fonts', $this->folder.'/assets/fonts');
    }

    /**
     * @param array{number: int, title: string, note: string, by: string, date: string} $about
     * @param array<string, mixed> $data
     */
    private function page(string $template, array $about, string $path, array $data): string
    {
        return $this->twig->render($template, $data + ['about' => $about, 'root' => str_repeat('../', substr_count($path, '/'))]);
    }

    private function put(string $path, string $content): void
    {
        $file = $this->folder.'/'.$path;
        if (!is_dir(\dirname($file))) {
            mkdir(\dirname($file), 0o755, true);
        }
        if (false === file_put_contents($file, $content)) {
            throw new \RuntimeException(\sprintf('“%s” cannot be written. Is the disk full?', $file));
        }
    }

    /** @return resource */
    private function file(string $path)
    {
        if (!isset($this->open[$path])) {
            if (!is_dir(\dirname($this->folder.'/'.$path))) {
                mkdir(\dirname($this->folder.'/'.$path), 0o755, true);
            }
            $this->open[$path] = fopen($this->folder.'/'.$path, 'w') ?: throw new \RuntimeException(\sprintf('“%s” cannot be written.', $path));
        }

        return $this->open[$path];
    }
}
