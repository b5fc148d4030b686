<?php

declare(strict_types=1);

namespace Fasti\Finding;

use Fasti\Core\Finding\Severity;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Dossier;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;

/** Links in what is written that lead to nothing. */
final readonly class LinksNowhere implements DossierCheck
{
    public function __construct(private EntryStore $entries, private Fields $fields)
    {
    }

    public function name(): string
    {
        return 'links-nowhere';
    }

    public function severity(): Severity
    {
        return Severity::Doubt;
    }

    public function why(): string
    {
        return 'Whoever follows it stands before nothing, here and in every edition.';
    }

    public function mend(): string
    {
        return 'Lead it to where the thing stands now, or take it out.';
    }

    public function title(string $group, string $one, int $count): string
    {
        return 1 === $count ? $one : Amount::of($count, 'text').' have a link that leads nowhere';
    }

    public function about(): array
    {
        return ['meaning'];
    }

    public function of(Dossier $dossier): iterable
    {
        $texts = [[null, $dossier->entry->meaning]];
        foreach ($dossier->entry->presentFields() as $field) {
            $texts[] = [$field->id, $field->meaning];
        }
        foreach ($texts as [$field, $text]) {
            preg_match_all('~\]\(\s*<?(?:https?://[^/\s)]+)?/register/(\d+)\b(?:#field-(\d+))?~', $text, $m, \PREG_SET_ORDER);
            foreach ($m as $link) {
                $to = (int) $link[1];
                $at = isset($link[2]) ? $this->fields->placed([(int) $link[2]])[(int) $link[2]] ?? null : null;
                if (!isset($this->entries->placed([$to])[$to]) || isset($link[2]) && (null === $at || $at->gone || $at->entry !== $to)) {
                    yield new Noticed($dossier->entry->id, $field, 'A link in the text leads nowhere: '.mb_strimwidth(ltrim($link[0], '](< '), 0, 80, '…'),
                        '', 'meaning', $link[0]);
                }
            }
        }
    }
}
