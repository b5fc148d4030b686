<?php

declare(strict_types=1);

namespace Fasti\Join;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Catalog\ForeignKey;
use Fasti\Core\Catalog\Place;
use Fasti\Core\Catalog\Reference;
use Fasti\Core\Catalog\Table;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Join\Cardinality;
use Fasti\Core\Join\JoinKey;
use Fasti\Core\Join\TypeFit;
use Fasti\Register\EntryStore;
use Fasti\Register\Fields;
use Fasti\Register\JoinKind;
use Fasti\Register\Joins;
use Fasti\Register\RegisterCatalog;
use Fasti\Source\SourceStore;
use Fasti\Text\BadText;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\ParameterBag;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** A join that a steward states by hand: from field to field, any number of them, for all rows or for some. */
final class StateController extends AbstractController
{
    private const MOST = 8;

    public function __construct(
        private readonly EntryStore $entries,
        private readonly Fields $fields,
        private readonly Joins $joins,
        private readonly RegisterCatalog $catalogs,
        private readonly SourceStore $sources,
        private readonly Texts $texts,
    ) {
    }

    #[Route('/register/{id<\d+>}/join', name: 'join_state', methods: ['GET', 'POST'])]
    #[IsGranted(Act::DESCRIBE)]
    public function state(Request $request, int $id, #[CurrentUser] Account $account): Response
    {
        $from = $this->catalogs->entry($id) ?? throw $this->createNotFoundException('There is no such entry in the register.');
        $placed = $this->entries->placed([$id])[$id];
        $given = $request->isMethod('POST') ? $request->request : $request->query;
        $typed = self::typed($given);
        $places = $this->entries->places($placed->source);
        $to = self::entryNamed($typed['to'], $places);
        $other = null === $to ? null : $this->catalogs->entry($to);
        $error = null;
        if ([] === $typed['pairs'] && null !== $other) {
            // The key of the other end, and what is called alike here.
            foreach (JoinKey::of($other)[0]->columns ?? [] as $column) {
                $typed['pairs'][] = [null === $from->column($column) || $id === $to ? '' : $column, $column];
            }
        }
        if ($request->isMethod('POST') && $this->isCsrfTokenValid('joins', $given->getString('_token'))) {
            try {
                if (null === $to || null === $other) {
                    throw new BadText(
                        '' === $typed['to'] ? 'Name the entry that this one leads to.' : \sprintf('There is no entry “%s” in this source.', $typed['to']),
                    );
                }
                if ($given->has('keep')) {
                    return $this->redirectToRoute('join', ['id' => $this->keep($account, $id, $from, $to, $other, $typed, $placed->source)], 303);
                }
            } catch (BadText $e) {
                $error = $e->getMessage();
            }
        } elseif ($request->isMethod('POST')) {
            $error = 'The page had stood open too long. What you chose is still here: keep it again.';
        }

        return $this->render('join/state.html.twig', [
            'id' => $id, 'from' => $from, 'placed' => $placed, 'to' => $other, 'toId' => $to, 'typed' => $typed, 'error' => $error,
            'places' => array_map(static fn (string $key): string => (string) Place::ofKey($key), array_keys($places)),
            'keys' => null === $other ? [] : JoinKey::of($other), 'most' => self::MOST,
        ], new Response(status: null === $error ? 200 : 422));
    }

    /** @return array{to: string, pairs: list<array{string, string}>, whereField: string, whereValue: string} */
    private static function typed(ParameterBag $given): array
    {
        $pairs = [];
        foreach ($given->all('near') as $i => $near) {
            $far = $given->all('far')[$i] ?? '';
            $pairs[] = [\is_string($near) ? $near : '', \is_string($far) ? $far : ''];
        }

        return [
            'to' => trim($given->getString('to')), 'pairs' => $pairs, 'whereField' => $given->getString('whereField'),
            'whereValue' => trim($given->getString('whereValue')),
        ];
    }

    /**
     * By its place, or by the first of its name.
     *
     * @param array<string, int> $places
     */
    private static function entryNamed(string $name, array $places): ?int
    {
        $found = null;
        foreach ($places as $key => $entry) {
            $place = Place::ofKey($key);
            if ((string) $place === $name) {
                return $entry;
            }
            if ($place->name === $name) {
                $found ??= $entry;
            }
        }

        return $found;
    }

    /**
     * @param array{to: string, pairs: list<array{string, string}>, whereField: string, whereValue: string} $typed
     *
     * @throws BadText
     */
    private function keep(Account $account, int $id, Table $from, int $to, Table $other, array $typed, int $source): int
    {
        $pairs = array_values(array_filter($typed['pairs'], static fn (array $pair): bool => '' !== $pair[0] || '' !== $pair[1]));
        if ([] === $pairs) {
            throw new BadText('Choose a field on each side: those that have to be equal.');
        }
        $dialect = Dialects::of($this->sources->engine($source));
        $ids = $this->fields->ids([$id, $to]);
        $linked = [];
        foreach ($pairs as [$near, $far]) {
            $one = $from->column($near) ?? throw new BadText(\sprintf('%s has no field “%s”.', $from->name, $near));
            $two = $other->column($far) ?? throw new BadText(\sprintf('%s has no field “%s”.', $other->name, $far));
            if ($id === $to && $near === $far) {
                throw new BadText(\sprintf('%s would be held against itself, which is always so.', $near));
            }
            if (null === TypeFit::of($dialect->typeOf($one), $dialect->typeOf($two))) {
                throw new BadText(\sprintf('%s (%s) and %s (%s) can never be equal: their types have nothing in common.', $near, $one->type, $far, $two->type));
            }
            $linked[] = [$ids[$id][$near], $ids[$to][$far]];
        }
        $where = null;
        if ('' !== $typed['whereField']) {
            if (null === $from->column($typed['whereField']) || '' === $typed['whereValue']) {
                throw new BadText('Only where … needs a field of this entry, and the value it has in the rows that take part.');
            }
            $where = [$ids[$id][$typed['whereField']], mb_substr($typed['whereValue'], 0, 190)];
        }
        $key = new ForeignKey(null, array_column($pairs, 0) ?: [''], new Reference($other->schema, $other->name, array_column($pairs, 1) ?: ['']));
        $join = $this->joins->stated($id, $to, $linked, $where, Cardinality::declared($from, $key));
        if (JoinKind::Declared !== $this->joins->one($join)?->kind) {
            $this->texts->save(
                $account,
                'join',
                $join,
                JoinProperties::DECISION,
                $this->joins->standings([$join])[$join]->stated ?? '',
                JoinKind::Documented->value,
                'state-'.bin2hex(random_bytes(8)),
            );
        }

        return $join;
    }
}
