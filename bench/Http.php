<?php

declare(strict_types=1);

namespace Fasti\Bench;

/** A browser of the simplest kind: keeps its cookie, follows nothing, times whole responses. */
final class Http
{
    private string $cookie = '';

    public function __construct(private readonly string $base)
    {
    }

    public function signIn(string $email, string $password): void
    {
        [, $page] = $this->ask('GET', '/sign-in');
        preg_match('/name="_csrf_token" value="([^"]+)"/', $page, $m);
        [$status] = $this->ask('POST', '/sign-in', http_build_query(['email' => $email, 'password' => $password, '_csrf_token' => $m[1] ?? '']));
        if (302 !== $status) {
            throw new \RuntimeException("Signing in answered $status.");
        }
    }

    /** Seconds that one whole response takes, as a page's script would ask for it. */
    public function time(string $path): float
    {
        $start = hrtime(true);
        [$status] = $this->ask('GET', $path);
        $seconds = (hrtime(true) - $start) / 1e9;
        if ($status >= 400 || (302 === $status && '/sign-in' !== $path)) {
            throw new \RuntimeException("$path answered $status.");
        }

        return $seconds;
    }

    /** @return array{int, string} */
    private function ask(string $method, string $path, string $body = ''): array
    {
        $context = stream_context_create(['http' => ['method' => $method, 'follow_location' => 0, 'ignore_errors' => true,
            'content' => $body, 'header' => implode("\r\n", array_filter([
                '' === $this->cookie ? '' : 'Cookie: '.$this->cookie,
                'POST' === $method ? 'Content-Type: application/x-www-form-urlencoded' : 'X-Requested-With: fetch',
            ]))]]);
        $text = (string) file_get_contents($this->base.$path, false, $context);
        foreach ($http_response_header as $header) {
            if (1 === preg_match('/^Set-Cookie: (fasti=[^;]+)/i', $header, $m)) {
                $this->cookie = $m[1];
            }
        }

        return [1 === preg_match('/ (\d{3})/', $http_response_header[0] ?? '', $m) ? (int) $m[1] : 0, $text];
    }
}
