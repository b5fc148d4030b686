<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Catalog\Catalog;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Dialect\Address;
use Fasti\Core\Survey\Choice;
use Fasti\Core\Survey\SilentProgress;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;

/** What commands are given: a connection URL, a file or folder, or a catalog as JSON. */
final readonly class Targets
{
    public function __construct(private Sources $sources, private Deliveries $deliveries)
    {
    }

    /** @throws SourceError */
    public function target(#[\SensitiveParameter] string $text, string $dialect = ''): Target
    {
        return Address::of(str_contains($text, '://') ? $text : $this->deliveries->unpacked($text), $dialect);
    }

    /** @throws SourceError */
    public function catalog(#[\SensitiveParameter] string $text, string $dialect = '', Choice $choice = new Choice()): Catalog
    {
        $kept = self::kept($text);

        return $kept ?? $this->sources->reader($this->target($text, $dialect))->read($choice, new SilentProgress());
    }

    /** A catalog that a survey printed or kept earlier. */
    private static function kept(string $path): ?Catalog
    {
        if (!str_ends_with($path, '.json') || !is_file($path)) {
            return null;
        }
        $head = (string) file_get_contents($path, false, null, 0, 4096);
        if (1 !== preg_match('/^\s*\{\s*"tables"\s*:\s*\[/', $head)) {
            return null;
        }
        $data = json_decode((string) file_get_contents($path), true);

        return \is_array($data) && \is_string($data['engine'] ?? null) ? OpenForm::read(Catalog::class, $data) : null;
    }
}
