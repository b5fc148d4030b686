<?php

declare(strict_types=1);

namespace Fasti\Account;

use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * What shows that the person at the first page is the one who installed Fasti: bin/start prints it. It follows from the secret
 * of this installation, and is good for nothing once there is an account.
 */
final readonly class FirstCode
{
    public function __construct(
        #[Autowire('%kernel.secret%'), \SensitiveParameter] private string $secret,
        #[Autowire('%env(DATABASE_NAME)%')] private string $database,
    ) {
    }

    public function code(): string
    {
        if ('' === $this->secret) {
            throw new \LogicException('There is no APP_SECRET. bin/prepare makes one.');
        }
        // Without letters and digits that look alike.
        $bytes = hash_hmac('sha256', 'first account of '.$this->database, $this->secret, true);
        $code = implode(
            '',
            array_map(static fn (string $byte): string => 'ABCDEFGHJKLMNPQRSTUVWXYZ23456789'[\ord($byte) % 32], str_split(substr($bytes, 0, 12))),
        );

        return implode('-', str_split($code, 4));
    }

    public function fits(string $typed): bool
    {
        $plain = static fn (string $text): string => (string) preg_replace('/[^A-Z0-9]/', '', strtoupper($text));

        return hash_equals($plain($this->code()), $plain($typed));
    }
}
