<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Core\Design\DesignFile;
use Fasti\Design\Designs;
use Fasti\Design\KeptDesign;
use Fasti\Design\Reading;

/** A page and files for each design that is shared: its drawing, its sentences, and what is known of its things. */
final class DesignPages extends EditionPart
{
    private const LIST = 'designs/index.html';
    /** @var list<KeptDesign> */
    private array $shared = [];

    public function __construct(private readonly Designs $designs)
    {
    }

    public static function path(int $design): string
    {
        return "designs/$design.html";
    }

    public function begin(Folder $folder): void
    {
        $this->shared = $this->designs->shared();
        if ([] !== $this->shared) {
            $folder->announce('Designs', self::LIST);
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        $made = [];
        foreach ($this->shared as $kept) {
            $folder->write(\sprintf('designs/%d.txt', $kept->id()), $kept->readable."\n");
            $folder->write(\sprintf('designs/%d.json', $kept->id()), DesignFile::json($kept->design())."\n");
            $folder->page(self::path($kept->id()), 'edition/design.html.twig', Reading::of($kept) + ['file' => (string) $kept->id()]);
            $made[] = ['kept' => $kept, 'path' => \sprintf('%d.html', $kept->id()), 'counts' => Designs::tallyOf($kept->design())];
        }
        if ([] !== $made) {
            $folder->page(self::LIST, 'edition/designs.html.twig', ['designs' => $made]);
        }
    }
}
