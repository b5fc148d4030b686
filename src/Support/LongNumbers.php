<?php

declare(strict_types=1);

namespace Fasti\Support;

use Symfony\Component\EventDispatcher\Attribute\AsEventListener;
use Symfony\Component\HttpKernel\Event\RequestEvent;
use Symfony\Component\HttpKernel\Exception\NotFoundHttpException;

/** An address or a question with a number that no machine counts to leads nowhere, instead of failing on the way. */
final class LongNumbers
{
    /** Numbers of things in the database have ten digits at the most; those of its lists are bounded by this too. */
    private const DIGITS = '/^[+-]?\d{16,}$/';

    /** Right after the address was understood. */
    #[AsEventListener(priority: 31)]
    public function refuse(RequestEvent $event): void
    {
        if (!$event->isMainRequest()) {
            return;
        }
        $request = $event->getRequest();
        /** @var array<string, mixed> $parameters */
        $parameters = $request->attributes->get('_route_params', []);
        foreach ($parameters as $value) {
            if (\is_string($value) && 1 === preg_match('/^\d{10,}$/', $value) && ('4294967295' < $value || \strlen($value) > 10)) {
                throw new NotFoundHttpException('There is nothing with such a number.');
            }
        }
        foreach (['page', 'part', 'before', 'source', 'job', 'diagram', 'fact', 'entry', 'current', 'id', 'number', 'n', 'width'] as $name) {
            $value = $request->query->all()[$name] ?? null;
            if (\is_string($value) && 1 === preg_match(self::DIGITS, $value)) {
                throw new NotFoundHttpException('There is nothing with such a number.');
            }
        }
    }
}
