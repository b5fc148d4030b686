<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** What the form for a source collects. A pasted URL wins over the single fields. */
final class SourceDraft
{
    #[Assert\NotBlank(message: 'Give the source a name that people will know it by.'), Assert\Length(max: 120)]
    public string $name = '';
    public string $purpose = '';
    #[Assert\Length(max: 120)]
    public string $owner = '';
    public string $url = '';
    #[Assert\Length(max: 255)]
    public string $host = '';
    #[Assert\Range(min: 1, max: 65535, notInRangeMessage: 'A port is a number from {{ min }} to {{ max }}.')]
    public ?int $port = 3306;
    #[Assert\Length(max: 190)]
    public string $database = '';
    #[Assert\Length(max: 190)]
    public string $account = '';
    public string $secret = '';

    public static function of(Source $source): self
    {
        $draft = new self();
        [$draft->name, $draft->purpose, $draft->owner] = [$source->name, $source->purpose, $source->owner];
        [$draft->host, $draft->port, $draft->database, $draft->account] = [$source->connection->host, $source->connection->port, $source->connection->database, $source->connection->account];

        return $draft;
    }

    /**
     * @param string $kept the secret to use when none is typed
     *
     * @throws SourceError
     */
    public function target(#[\SensitiveParameter] string $kept = ''): Target
    {
        if ('' !== trim($this->url)) {
            $target = Target::fromUrl($this->url);

            return '' !== $target->secret ? $target : new Target($target->engine, $target->host, $target->port, $target->database, $target->account, '' === $this->secret ? $kept : $this->secret);
        }
        if ('' === trim($this->host)) {
            throw new SourceError('No host is given.', 'Paste a connection URL, or fill in at least host and account.');
        }

        return new Target('mariadb', trim($this->host), $this->port ?? 3306, trim($this->database), $this->account, '' === $this->secret ? $kept : $this->secret);
    }

    public function fill(Source $source, Vault $vault): void
    {
        [$source->name, $source->purpose, $source->owner] = [trim($this->name), trim($this->purpose), trim($this->owner)];
        $target = $this->target();
        $connection = $source->connection;
        [$connection->engine, $connection->host, $connection->port, $connection->database, $connection->account] = [$target->engine, $target->host, $target->port, $target->database, $target->account];
        if ('' !== $target->secret) {
            $connection->sealedSecret = $vault->seal($target->secret);
        }
    }

    #[Assert\Callback]
    public function checkTarget(ExecutionContextInterface $context): void
    {
        try {
            $this->target();
        } catch (SourceError $e) {
            $context->buildViolation($e->inWords())->atPath('' === trim($this->url) ? 'host' : 'url')->addViolation();
        }
    }
}
