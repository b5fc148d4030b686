<?php

declare(strict_types=1);

namespace Fasti\Account;

use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\RedirectResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Exception\AccessDeniedHttpException;
use Symfony\Component\Routing\Generator\UrlGeneratorInterface;
use Symfony\Component\Security\Core\Exception\AuthenticationException;
use Symfony\Component\Security\Core\Exception\InvalidCsrfTokenException;
use Symfony\Component\Security\Http\EntryPoint\AuthenticationEntryPointInterface;

/** Sends a person to the sign-in page, and tells a script plainly, so that it can keep what was typed. */
final readonly class SignInEntryPoint implements AuthenticationEntryPointInterface
{
    public function __construct(private UrlGeneratorInterface $urls)
    {
    }

    public function start(Request $request, ?AuthenticationException $authException = null): Response
    {
        if ($authException instanceof InvalidCsrfTokenException) {
            // Not a stranger, but a form that had stood open too long.
            throw new AccessDeniedHttpException('The form had expired.', $authException);
        }
        if ('fetch' === $request->headers->get('X-Requested-With')) {
            return new JsonResponse(
                ['error' => 'You are signed out. Sign in again in another tab; what you typed is kept here.', 'signIn' => $this->urls->generate('sign_in')],
                401,
            );
        }

        return new RedirectResponse($this->urls->generate('sign_in'));
    }
}
