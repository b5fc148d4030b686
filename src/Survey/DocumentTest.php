<?php

declare(strict_types=1);

namespace Fasti\Survey;

use Fasti\Core\Files\JsonDocuments;
use Fasti\Core\Survey\SourceError;
use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Errors\ValidationError;
use Opis\JsonSchema\Exceptions\SchemaException;
use Opis\JsonSchema\Validator;

/** Tests documents, as they stream by, against a JSON Schema. */
final class DocumentTest
{
    /**
     * @param int $most how many failures are listed; all are counted
     *
     * @return array{documents: int, failed: int, failures: list<array{document: int, path: string, why: string}>, notes: list<string>}
     *
     * @throws SourceError
     */
    public function run(string $path, string $schema, int $most = 100): array
    {
        $decoded = json_decode($schema);
        if (!$decoded instanceof \stdClass) {
            throw new SourceError('The schema is not a JSON object: '.json_last_error_msg().'.', 'Check it for a missing comma or bracket.');
        }
        $validator = new Validator();
        $validator->setMaxErrors(10);
        $formatter = new ErrorFormatter();
        $documents = new JsonDocuments($path);
        $count = $failed = 0;
        $failures = [];
        try {
            foreach ($documents as [$value, , $number]) {
                ++$count;
                $error = $validator->validate($value, $decoded)->error();
                if (null === $error) {
                    continue;
                }
                ++$failed;
                if (\count($failures) < $most) {
                    /** @var array<string, list<string>> $found */
                    $found = $formatter->format($error, true, static fn (ValidationError $e): string => $formatter->formatErrorMessage($e));
                    foreach ($found as $place => $reasons) {
                        foreach ($reasons as $why) {
                            $failures[] = [
                                'document' => $number,
                                'path' => '/' === $place ? 'the document itself' : str_replace('/', '.', ltrim((string) $place, '/')),
                                'why' => $why,
                            ];
                        }
                    }
                }
            }
        } catch (SchemaException $e) {
            throw new SourceError('The schema cannot be used: '.$e->getMessage().'.', 'Check it against the standard it names.');
        }

        return ['documents' => $count, 'failed' => $failed, 'failures' => \array_slice($failures, 0, $most), 'notes' => $documents->faults];
    }
}
