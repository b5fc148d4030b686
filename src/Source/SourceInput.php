<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Dialect\Address;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** What the form for a source collects. A pasted URL wins over the single fields, files handed in over a path. */
final class SourceInput
{
    #[Assert\NotBlank(message: 'Give the source a name that people will know it by.'), Assert\Length(max: 120)]
    public string $name = '';
    public string $purpose = '';
    #[Assert\Length(max: 120)]
    public string $owner = '';
    public Cadence $every = Cadence::Never;
    #[Assert\Choice(choices: ['mariadb', 'mysql', 'postgresql', 'sqlite', 'files'])]
    public string $engine = 'mariadb';
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
    #[Assert\Length(max: 700)]
    public string $path = '';
    public string $dialect = '';
    /** @var list<UploadedFile> */
    public array $files = [];
    /** The folder of what was handed in before. */
    public string $kept = '';

    public static function of(Source $source): self
    {
        $input = new self();
        $connection = $source->connection;
        [$input->name, $input->purpose, $input->owner, $input->every] = [$source->name, $source->purpose, $source->owner, $source->every];
        [$input->engine, $input->host, $input->port, $input->database, $input->account, $input->kept, $input->dialect] = [$connection->engine, $connection->host, $connection->port ?: null, $connection->database, $connection->account, $connection->path, $connection->dialect];

        return $input;
    }

    public function isServer(): bool
    {
        return '' !== trim($this->url) || !\in_array($this->engine, ['sqlite', 'files'], true);
    }

    /**
     * @param string $kept the secret to use when none is typed
     *
     * @throws SourceError
     */
    public function target(#[\SensitiveParameter] string $kept = '', ?Deliveries $deliveries = null): Target
    {
        if ('' !== trim($this->url)) {
            $target = Address::fromUrl($this->url);
            if ('sqlite' === $target->engine) {
                return new Target('sqlite', path: null === $deliveries ? $target->path : $deliveries->allowed($target->path));
            }

            return '' !== $target->secret ? $target : new Target($target->engine, $target->host, $target->port, $target->database, $target->account, '' === $this->secret ? $kept : $this->secret);
        }
        if (!$this->isServer()) {
            return $this->fileTarget($deliveries);
        }
        if ('' === trim($this->host)) {
            throw new SourceError('No host is given.', 'Paste a connection URL, or fill in at least host and account.');
        }

        return new Target($this->engine, trim($this->host), $this->port ?? Target::DEFAULT_PORTS[$this->engine] ?? 3306, trim($this->database), $this->account, '' === $this->secret ? $kept : $this->secret);
    }

    /** @throws SourceError */
    private function fileTarget(?Deliveries $deliveries): Target
    {
        $path = $this->kept;
        if ([] !== $this->files) {
            if (null === $deliveries) {
                return new Target($this->engine, path: $this->files[0]->getPathname(), dialect: $this->dialect);
            }
            $given = [];
            foreach ($this->files as $file) {
                if (!$file->isValid()) {
                    throw new SourceError(\sprintf('“%s” did not arrive whole: %s', $file->getClientOriginalName(), $file->getErrorMessage()), 'A file beyond the limit can be put into the folder var/files and named by its path.');
                }
                $given[$file->getClientOriginalName()] = $file->getPathname();
            }
            $path = $deliveries->keep($given);
            $this->files = [];
            $this->kept = $path;
        } elseif ('' !== trim($this->path)) {
            $path = null === $deliveries ? trim($this->path) : $deliveries->allowed(trim($this->path));
        }
        if ('' === $path) {
            throw new SourceError('No file is given.', 'Choose the files to hand in, or name a path below var/files.');
        }
        if ('sqlite' === $this->engine && is_dir($path)) {
            $path = (glob($path.'/*') ?: [''])[0];
        }

        return new Target($this->engine, path: $path, dialect: $this->dialect);
    }

    /** @throws SourceError */
    public function fill(Source $source, Vault $vault, Deliveries $deliveries): void
    {
        [$source->name, $source->purpose, $source->owner, $source->every] = [trim($this->name), trim($this->purpose), trim($this->owner), $this->every];
        $target = $this->target('', $deliveries);
        $connection = $source->connection;
        [$connection->engine, $connection->host, $connection->port, $connection->database, $connection->account, $connection->path, $connection->dialect] = [$target->engine, $target->host, $target->port, $target->database, $target->account, $target->path, $target->dialect];
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
            $context->buildViolation($e->inWords())->atPath('' !== trim($this->url) ? 'url' : ($this->isServer() ? 'host' : 'files'))->addViolation();
        }
    }
}
