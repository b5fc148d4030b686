<?php

declare(strict_types=1);

namespace Fasti\Source;

/**
 * Seals the secrets of connections with XSalsa20-Poly1305 (libsodium's secretbox). The key lies outside the database,
 * so a copy of the database gives nothing away.
 */
final readonly class Vault
{
    private string $key;

    public function __construct(#[\SensitiveParameter] string $key)
    {
        $raw = base64_decode($key, true);
        if (false === $raw || \SODIUM_CRYPTO_SECRETBOX_KEYBYTES !== \strlen($raw)) {
            throw new \RuntimeException(
                'The key that seals the secrets of connections is missing or damaged. bin/prepare makes it in var/run/connections.key; restore that file '
                    .'from a backup if there was one.',
            );
        }
        $this->key = $raw;
    }

    public function seal(#[\SensitiveParameter] string $secret): string
    {
        $nonce = random_bytes(\SODIUM_CRYPTO_SECRETBOX_NONCEBYTES);

        return base64_encode($nonce.sodium_crypto_secretbox($secret, $nonce, $this->key));
    }

    public function open(string $sealed): string
    {
        if ('' === $sealed) {
            return '';
        }
        $raw = (string) base64_decode($sealed, true);
        $secret = \strlen($raw) < \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES ? false : sodium_crypto_secretbox_open(
            substr($raw, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES),
            substr($raw, 0, \SODIUM_CRYPTO_SECRETBOX_NONCEBYTES),
            $this->key,
        );

        return false === $secret ? throw new \RuntimeException('The secret of this connection was sealed with another key. Enter it once more.') : $secret;
    }
}
