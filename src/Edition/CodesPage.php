<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Fasti\CodeList\CodeLists;
use Fasti\CodeList\ListedCodes;

/** The code lists that stewards made, on one page that every page leads to. */
final class CodesPage extends EditionPart
{
    private const PAGE = 'codes/index.html';
    private const AT_ONCE = 1000;
    private bool $given = false;

    public function __construct(private readonly CodeLists $lists)
    {
    }

    public function begin(Folder $folder): void
    {
        $this->given = $this->lists->count() > 0;
        if ($this->given) {
            $folder->announce('Code lists', self::PAGE);
        }
    }

    public function end(Folder $folder, Contents $contents): void
    {
        if ($this->given) {
            $lists = $this->lists->all();
            $folder->streamed(self::PAGE, 'edition/codes.html.twig', ['kept' => $lists, 'rows' => $this->rows($lists)]);
        }
    }

    /**
     * @param list<ListedCodes> $lists
     *
     * @return \Generator<mixed>
     */
    private function rows(array $lists): \Generator
    {
        foreach ($lists as $list) {
            for ($from = 0; $from < $list->codes; $from += self::AT_ONCE) {
                foreach ($this->lists->codes($list->id, self::AT_ONCE, $from) as $code) {
                    yield ['list' => $list] + get_object_vars($code);
                }
            }
        }
    }
}
