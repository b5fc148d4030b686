<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\Term\Terms;

/** The glossary, on one page that every page leads to. */
final class GlossaryPage extends EditionPart
{
    public const PAGE = 'glossary/index.html';
    private bool $given = false;

    public function __construct(private readonly Terms $terms)
    {
    }

    public function begin(Folder $folder): void
    {
        $this->terms->reset();
        $this->given = [] !== $this->terms->all();
        if ($this->given) {
            $folder->announce('Glossary', self::PAGE);
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        if ($this->given) {
            $folder->page(self::PAGE, 'edition/glossary.html.twig', ['terms' => $this->terms->all(), 'links' => new EditionLinks([], '../')]);
        }
    }
}
