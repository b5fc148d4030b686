<?php

declare(strict_types=1);

namespace Fasti\Edition;

/** The page that an edition opens with. */
final class FrontPage extends EditionPart
{
    public function end(Folder $folder, Contents $contents): void
    {
        $folder->page('index.html', 'edition/front.html.twig', ['contents' => $contents]);
    }
}
