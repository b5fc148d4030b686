<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Coded;
use Fasti\Core\Model\Plan;
use Fasti\Core\Model\PlanColumn;
use Fasti\Core\Model\Trial;
use Fasti\Core\Model\TrialWords;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\Response;

/** An answer as a file: its rows, with the question, the SQL, the moment and the version of the model. */
final class AnswerFile
{
    public const FORMATS = ['csv' => 'text/csv', 'json' => 'application/json'];

    public static function of(string $format, KeptModel $kept, Trial $trial, Plan $plan, AnswerView $answer): Response
    {
        $name = Anchors::of($kept->name).'-'.(new \DateTimeImmutable())->format('Y-m-d-His').'.'.$format;

        return new Response('csv' === $format ? self::csv($kept, $trial, $plan, $answer) : self::json($kept, $trial, $plan, $answer), 200, [
            'Content-Type' => self::FORMATS[$format].'; charset=UTF-8',
            'Content-Disposition' => HeaderUtils::makeDisposition(HeaderUtils::DISPOSITION_ATTACHMENT, $name, 'answer.'.$format),
        ]);
    }

    /** @return array<string, string> what the answer is of */
    private static function about(KeptModel $kept, Trial $trial, Plan $plan): array
    {
        return [
            'question' => TrialWords::of($trial), 'model' => $kept->name, 'version' => hash('xxh32', $kept->definition),
            'modelChanged' => $kept->changedAt->format(\DATE_ATOM), 'asked' => (new \DateTimeImmutable())->format(\DATE_ATOM),
            'connection' => $kept->connection()->label, 'sql' => $plan->sql(),
        ];
    }

    private static function csv(KeptModel $kept, Trial $trial, Plan $plan, AnswerView $answer): string
    {
        $file = fopen('php://temp', 'r+');
        if (false === $file) {
            throw new \RuntimeException('There is no memory for a file.');
        }
        foreach (self::about($kept, $trial, $plan) as $what => $words) {
            // Read as remarks by what reads such files, and by people.
            foreach (explode("\n", $words) as $i => $line) {
                fwrite($file, '# '.(0 === $i ? "$what: " : '  ').$line."\r\n");
            }
        }
        $coded = Coded::of($plan->columns, array_column($answer->columns, 'name'), $answer->rows);
        fputcsv($file, array_map(self::plain(...), $coded->names), escape: '', eol: "\r\n");
        foreach ($coded->rows as $row) {
            fputcsv($file, array_map(self::plain(...), $row), escape: '', eol: "\r\n");
        }
        rewind($file);

        return (string) stream_get_contents($file);
    }

    /** A text that a spreadsheet would take for a formula is one no more. */
    private static function plain(?string $value): string
    {
        return null !== $value && 1 === preg_match('/^[=+@\t\r]|^-(?![\d.])/', $value) ? "'".$value : (string) $value;
    }

    private static function json(KeptModel $kept, Trial $trial, Plan $plan, AnswerView $answer): string
    {
        $coded = Coded::of($plan->columns, array_map(static fn (PlanColumn $column): string => $column->name, $plan->columns), $answer->rows);
        $rows = [];
        foreach ($coded->rows as $row) {
            $one = [];
            foreach ($coded->names as $i => $name) {
                $one[$name] = null === $coded->columns[$i] ? $row[$i] : $coded->columns[$i]->exact($row[$i] ?? null);
            }
            $rows[] = $one;
        }

        return json_encode(self::about($kept, $trial, $plan) + [
            'trial' => OpenForm::of($trial), 'cut' => $answer->cut, 'notes' => $answer->notAdded, 'rows' => $rows,
        ], \JSON_THROW_ON_ERROR | \JSON_PRETTY_PRINT | \JSON_UNESCAPED_UNICODE | \JSON_UNESCAPED_SLASHES | \JSON_INVALID_UTF8_SUBSTITUTE)."\n";
    }
}
