<?php

declare(strict_types=1);

namespace Fasti\Source\Connector;

/**
 * What runs in the process of a session: it opens the door that it is told, and answers questions in lines of JSON.
 *
 * The first line is `{"door": …, "with": […]}`, the class and what its constructor takes, and is answered as a question without columns is.
 * A question is `{"sql": …, "parameters": {…}}`, or with `"all": true` any number of statements that give no rows. An answer is any number
 * of `{"columns": […], "rows": [[…], …], "over": false}`, the last of which is over, or `{"error": …, "state": …, "code": …}`. Values that
 * JSON cannot hold stand under `bytes` instead of `rows`, in base 64.
 */
final class Serving
{
    private const ROWS = 1000;
    private const BYTES = 262144;

    /** The PHP that serves, where the folder of the core and this one are at these places. */
    public static function code(string $core, string $here): string
    {
        return \sprintf(
            'spl_autoload_register(static function ($c) { foreach (["Fasti\\\\Core\\\\" => %s, "Fasti\\\\Source\\\\Connector\\\\" => %s] as $n => $d) {'
                .' if (str_starts_with($c, $n)) { require $d."/".strtr(substr($c, strlen($n)), "\\\\", "/").".php"; } } }); %s::loop(STDIN, STDOUT);',
            var_export($core, true),
            var_export($here, true),
            self::class,
        );
    }

    /**
     * @param resource $in
     * @param resource $out
     */
    public static function loop(mixed $in, mixed $out): void
    {
        $door = null;
        while (false !== ($line = fgets($in))) {
            $asked = json_decode($line, true);
            if (!\is_array($asked)) {
                continue;
            }
            try {
                if (null === $door) {
                    $class = $asked['door'] ?? null;
                    if (!\is_string($class) || !is_subclass_of($class, Door::class)) {
                        throw new \LogicException('No door.');
                    }
                    $door = new $class(...(\is_array($asked['with'] ?? null) ? $asked['with'] : []));
                    self::say($out, ['columns' => [], 'rows' => [], 'over' => true]);
                    continue;
                }
                self::answer($door, $asked, $out);
            } catch (\Exception $e) {
                [$state, $code] = $door?->code($e) ?? ($e instanceof \PDOException ? PdoDoor::codeOf($e) : ['', (int) $e->getCode()]);
                self::say($out, ['error' => mb_scrub($e->getMessage()), 'state' => $state, 'code' => $code]);
            }
        }
    }

    /**
     * @param array<mixed> $asked
     * @param resource     $out
     */
    private static function answer(Door $door, array $asked, mixed $out): void
    {
        $sql = \is_string($asked['sql'] ?? null) ? $asked['sql'] : '';
        $rows = [];
        if (true === ($asked['all'] ?? false)) {
            $door->exec($sql);
            self::say($out, ['columns' => [], 'rows' => [], 'over' => true]);

            return;
        }
        $bytes = 0;
        /** @var array<string, string|int> $parameters */
        $parameters = \is_array($asked['parameters'] ?? null) ? $asked['parameters'] : [];
        /** @var list<string|null> $row */
        foreach ($door->rows($sql, $parameters) as $row) {
            $rows[] = $row;
            $bytes += \strlen(implode('', $row));
            if ($bytes > self::BYTES || \count($rows) >= self::ROWS) {
                self::say($out, ['columns' => $door->columns(), 'rows' => $rows, 'over' => false]);
                $rows = [];
                $bytes = 0;
            }
        }
        self::say($out, ['columns' => $door->columns(), 'rows' => $rows, 'over' => true]);
    }

    /**
     * @param resource             $out
     * @param array<string, mixed> $answer
     */
    private static function say(mixed $out, array $answer): void
    {
        $json = json_encode($answer, \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES);
        if (false === $json) {
            $packed = static fn (mixed $value): ?string => \is_string($value) ? base64_encode($value) : null;
            $answer['bytes'] = array_map(
                static fn (mixed $row): array => array_map($packed, (array) $row),
                \is_array($answer['rows'] ?? null) ? $answer['rows'] : [],
            );
            $answer['rows'] = [];
            $json = json_encode($answer, \JSON_UNESCAPED_UNICODE | \JSON_INVALID_UTF8_SUBSTITUTE | \JSON_THROW_ON_ERROR);
        }

        fwrite($out, $json."\n");
    }
}
