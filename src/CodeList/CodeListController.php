<?php

declare(strict_types=1);

namespace Fasti\CodeList;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Core\Value\AllowedError;
use Fasti\Core\Value\Lists;
use Fasti\Core\Value\Pasted;
use Fasti\Core\Wording\Amount;
use Fasti\Register\Fields;
use Fasti\Text\BadText;
use Fasti\Text\History;
use Fasti\Text\Texts;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Code lists, each against the data of the fields that use it. */
final class CodeListController extends AbstractController
{
    private const PAGE = 200;
    private const MISSING_SHOWN = 60;
    private const LONGEST_CODE = 190;

    public function __construct(
        private readonly CodeLists $lists,
        private readonly Fields $fields,
        private readonly FieldValues $values,
        private readonly Texts $texts,
        private readonly History $history,
    ) {
    }

    #[Route('/register/code-lists', name: 'code_lists', methods: ['GET'])]
    public function list(): Response
    {
        $uses = $this->lists->uses();
        $lists = [];
        foreach ($this->lists->all() as $list) {
            $fields = $uses[mb_strtolower($list->name)] ?? [];
            $against = Against::of($this->lists->codesOf($list->name) ?? [], $this->values->of($fields), \count($fields));
            $lists[] = get_object_vars($list) + ['fields' => \count($fields), 'missing' => \count($against->missing), 'unused' => \count($against->unused),
                'rows' => array_sum($against->missing)];
        }

        return $this->render('code_list/list.html.twig', ['lists' => $lists, 'standard' => Lists::all(), 'uses' => array_map(\count(...), $uses)]);
    }

    #[Route('/register/code-lists', name: 'code_list_make', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('code_lists')]
    public function make(Request $request): Response
    {
        $given = $request->request;
        try {
            $id = $this->lists->make($given->getString('name'), Pasted::codes($given->getString('codes'), self::LONGEST_CODE));
        } catch (BadText|AllowedError $e) {
            $this->addFlash('bad', $e->getMessage());

            return $this->render('code_list/list.html.twig', [
                'lists' => [], 'standard' => [], 'uses' => [], 'name' => $given->getString('name'), 'codes' => $given->getString('codes'),
            ], new Response(status: 422));
        }

        return $this->redirectToRoute('code_list', ['id' => $id], 303);
    }

    #[Route('/register/code-lists/{id<\d+>}', name: 'code_list', methods: ['GET'])]
    public function show(Request $request, int $id): Response
    {
        $list = $this->lists->one($id) ?? throw $this->createNotFoundException('There is no such code list.');
        $codes = $this->lists->codesOf($list['name']) ?? [];
        $fields = $this->lists->uses()[mb_strtolower($list['name'])] ?? [];
        $values = $this->values->of($fields);
        $against = Against::of($codes, $values, \count($fields));
        $which = $request->query->getString('which', 'all');
        $page = max(1, $request->query->getInt('page', 1));
        $shown = 'unused' === $which ? $this->unused($id, $against, $page)
            : $this->lists->codes($id, self::PAGE + 1, self::PAGE * ($page - 1), \in_array($which, ['unsaid', 'replaced'], true) ? $which : 'all');

        return $this->render('code_list/show.html.twig', [
            'list' => $list, 'size' => \count($codes), 'fields' => $this->fields->placed($fields), 'values' => $values, 'against' => $against,
            'missing' => \array_slice($against->missing, 0, self::MISSING_SHOWN, true), 'which' => $which, 'page' => $page,
            'codes' => \array_slice($shown, 0, self::PAGE), 'more' => \count($shown) > self::PAGE, 'many' => \count($codes) > self::PAGE,
            'unsaid' => \count($this->lists->codes($id, CodeLists::MOST_CODES, 0, 'unsaid')),
        ]);
    }

    #[Route('/register/code-lists/{id<\d+>}/history', name: 'code_list_history', methods: ['GET'])]
    public function history(Request $request, int $id): Response
    {
        $list = $this->lists->one($id) ?? throw $this->createNotFoundException('There is no such code list.');

        return $this->render('code_list/history.html.twig', ['list' => $list] + $this->history->of('code-list', $id, $request->query->getInt('before',
            \PHP_INT_MAX)));
    }

    #[Route('/register/code-lists/standard/{name}', name: 'code_list_standard', methods: ['GET'])]
    public function standard(string $name): Response
    {
        $list = Lists::named($name) ?? throw $this->createNotFoundException('There is no such list.');
        $fields = $this->lists->uses()[mb_strtolower($list->name)] ?? [];

        return $this->render('code_list/standard.html.twig', [
            'list' => $list, 'fields' => $this->fields->placed($fields),
            'against' => Against::of(array_map(strval(...), array_keys($list->codes)), $this->values->of($fields), \count($fields)),
        ]);
    }

    /** Codes that were pasted, or those values that the data has and the list does not. */
    #[Route('/register/code-lists/{id<\d+>}/codes', name: 'code_list_add', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('code_lists')]
    public function add(Request $request, int $id): Response
    {
        $list = $this->lists->one($id) ?? throw $this->createNotFoundException('There is no such code list.');
        $given = $request->request;
        try {
            if ($given->has('missing')) {
                $fields = $this->lists->uses()[mb_strtolower($list['name'])] ?? [];
                $against = Against::of($this->lists->codesOf($list['name']) ?? [], $this->values->of($fields), \count($fields));
                $only = $given->getString('missing');
                $codes = array_fill_keys('' === $only ? array_keys($against->missing) : [$only], '');
            } else {
                $codes = Pasted::codes($given->getString('codes'), self::LONGEST_CODE);
            }
            $this->addFlash('done', Amount::of($this->lists->add($id, $codes), 'code').' added.');
        } catch (BadText|AllowedError $e) {
            $this->addFlash('bad', $e->getMessage());
        }

        return $this->redirectToRoute('code_list', ['id' => $id], 303);
    }

    #[Route('/register/code-lists/codes/{id<\d+>}/{what<out|back>}', name: 'code_out', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function out(int $id, string $what): JsonResponse
    {
        $this->lists->remove($id, 'out' === $what);

        return $this->json(['out' => 'out' === $what]);
    }

    /** Makes a list of the values that a field has, and says that they are what is allowed in it. */
    #[Route('/register/code-lists/of/{field<\d+>}', name: 'code_list_of', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function ofField(Request $request, int $field, #[CurrentUser] Account $account): JsonResponse
    {
        $at = $this->fields->placed([$field])[$field] ?? throw $this->createNotFoundException('There is no such field.');
        $values = $this->values->of([$field])[$field] ?? null;
        if (null === $values || $values->personal || !$values->complete || [] === $values->counts) {
            return $this->json(['error' => match (true) {
                null === $values => 'Nobody has looked at the data of this field yet. Profile its entry first.',
                $values->personal => 'The field is personal: its values are not kept.',
                default => 'The field has too many different values to list them.',
            }], 422);
        }
        $codes = array_filter(array_map(strval(...), array_keys($values->counts)), static fn (string $code): bool => '' !== trim($code));
        sort($codes, \SORT_NATURAL);
        try {
            $name = $this->lists->free('' !== $at->businessName ? $at->businessName : $at->place->table.' '.$at->place->column);
            $id = $this->lists->make($name, array_fill_keys($codes, ''));
            $done = $this->texts->save($account, 'field', $field, 'allowed', $request->getPayload()->getString('base'), 'code list '.$name, 'list-'.$id);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(get_object_vars($done) + ['list' => $this->generateUrl('code_list', ['id' => $id])], $done->saved ? 200 : 409);
    }

    /** @return list<SaidCode> */
    private function unused(int $list, Against $against, int $page): array
    {
        $unused = array_fill_keys($against->unused, true);
        $of = array_values(array_filter($this->lists->codes($list, CodeLists::MOST_CODES), static fn (SaidCode $code): bool => isset($unused[$code->code])));

        return \array_slice($of, self::PAGE * ($page - 1), self::PAGE + 1);
    }
}
