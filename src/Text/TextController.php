<?php

declare(strict_types=1);

namespace Fasti\Text;

use Fasti\Account\Account;
use Fasti\Account\Act\Act;
use Fasti\Support\Markdown;
use Symfony\Bundle\FrameworkBundle\Controller\AbstractController;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\Routing\Attribute\Route;
use Symfony\Component\Security\Http\Attribute\CurrentUser;
use Symfony\Component\Security\Http\Attribute\IsCsrfTokenValid;
use Symfony\Component\Security\Http\Attribute\IsGranted;

/** Where scripts save what is written, whatever it is about, and take it back. */
final class TextController extends AbstractController
{
    /** Bytes. */
    private const SHOWN = 60000;

    public function __construct(private readonly Texts $texts)
    {
    }

    #[Route('/texts', name: 'text_save', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function save(Request $request, #[CurrentUser] Account $account): JsonResponse
    {
        $given = $request->getPayload();
        try {
            $done = $this->texts->save(
                $account,
                $given->getString('topic'),
                $given->getInt('id'),
                $given->getString('property'),
                $given->getString('base'),
                $given->getString('value'),
                $given->getString('sitting'),
            );
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(get_object_vars($done) + ['html' => self::html($done->value)], $done->saved ? 200 : 409);
    }

    #[Route('/texts/changes/{id<\d+>}/take-back', name: 'change_take_back', methods: ['POST'])]
    #[IsGranted(Act::DESCRIBE)]
    #[IsCsrfTokenValid('texts', tokenKey: 'X-Csrf-Token', tokenSource: IsCsrfTokenValid::SOURCE_HEADER)]
    public function takeBack(int $id, #[CurrentUser] Account $account): JsonResponse
    {
        try {
            $done = $this->texts->takeBack($account, $id);
        } catch (BadText $e) {
            return $this->json(['error' => $e->getMessage()], 422);
        }

        return $this->json(get_object_vars($done) + ['html' => self::html($done->value)]);
    }

    /** As pages show it. What is longer than any text that people read (an outline, a definition) is drawn by its own page. */
    private static function html(string $text): string
    {
        return \strlen($text) > self::SHOWN ? '' : Markdown::html($text);
    }
}
