<?php

declare(strict_types=1);

namespace Fasti\Support;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\ResponseEvent;

/** Nothing on a page may come from elsewhere or be written inline. */
final class SecurityHeaders
{
    private const POLICY = "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data: blob:; font-src 'self'; connect-src 'self'; "
        ."form-action 'self'; frame-ancestors 'none'; base-uri 'none'";

    #[AsEventListener]
    public function add(ResponseEvent $event): void
    {
        $headers = $event->getResponse()->headers;
        $headers->set('Content-Security-Policy', self::POLICY);
        $headers->set('X-Content-Type-Options', 'nosniff');
        $headers->set('Referrer-Policy', 'same-origin');
        if (!$headers->has('Cache-Control') || str_contains((string) $headers->get('Cache-Control'), 'no-cache')) {
            $headers->set('Cache-Control', 'private, no-cache');
        }
        $headers->remove('X-Powered-By');
    }
}
