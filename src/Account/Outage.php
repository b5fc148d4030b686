<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\DBAL\Exception\ConnectionException;
use Doctrine\DBAL\Exception\DriverException;
use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpFoundation\JsonResponse;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\HttpKernel\Event\ExceptionEvent;
use Symfony\Component\Security\Core\Authentication\Token\Storage\TokenStorageInterface;
use Symfony\Component\Security\Core\Authentication\Token\TokenInterface;
use Twig\Environment;

/**
 * While the database cannot be reached, pages say so and come back by themselves, and nobody is signed out: who could not be looked up in
 * this moment would otherwise be taken out of the session for good.
 */
final readonly class Outage
{
    /** No connection, no route, gone away, lost, shutting down, too many connections. */
    private const CODES = [1040, 1053, 1158, 1159, 1160, 1161, 1203, 1927, 2002, 2003, 2006, 2013];
    private const AGAIN = 3;

    public function __construct(private TokenStorageInterface $tokens, private Environment $twig)
    {
    }

    #[AsEventListener(priority: 100)]
    public function answer(ExceptionEvent $event): void
    {
        if (!$event->isMainRequest() || !self::isAway($event->getThrowable())) {
            return;
        }
        $request = $event->getRequest();
        $this->stay($request);
        $headers = ['Retry-After' => (string) self::AGAIN, 'Cache-Control' => 'no-store'];
        $words = 'The database of Fasti cannot be reached at the moment. Nothing was saved just now, and nothing that was saved before is lost;'
            .' try again in a moment.';
        $script = 'fetch' === $request->headers->get('X-Requested-With') || str_contains((string) $request->headers->get('Accept'), 'json');
        $event->setResponse($script ? new JsonResponse(['error' => $words], 503, $headers) : new Response($this->twig->render('account/outage.html.twig', [
            'again' => $request->isMethodSafe() ? self::AGAIN : null,
        ]), 503, $headers));
        $event->allowCustomResponseCode();
    }

    /** Leaves the session as it is: the person is looked up again with the next request. */
    private function stay(Request $request): void
    {
        if (null !== $this->tokens->getToken() || !$request->hasPreviousSession()) {
            return;
        }
        $kept = $request->getSession()->get('_security_main');
        $token = \is_string($kept) ? @unserialize($kept) : null;
        if ($token instanceof TokenInterface) {
            $this->tokens->setToken($token);
        }
    }

    private static function isAway(\Throwable $e): bool
    {
        for (; null !== $e; $e = $e->getPrevious()) {
            if ($e instanceof ConnectionException || ($e instanceof DriverException && \in_array($e->getCode(), self::CODES, true))) {
                return true;
            }
        }

        return false;
    }
}
