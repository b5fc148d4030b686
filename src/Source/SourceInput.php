<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Dialect\Address;
use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Symfony\Component\HttpFoundation\File\UploadedFile;
use Symfony\Component\Validator\Constraints as Assert;
use Symfony\Component\Validator\Context\ExecutionContextInterface;

/** What the form for a source and one of its connections collects. A pasted URL wins over the single fields, files handed in over a path. */
final class SourceInput
{
    #[Assert\NotBlank(message: 'Give the source a name that people will know it by.'), Assert\Length(max: 120)]
    public string $name = '';
    public string $purpose = '';
    #[Assert\Length(max: 120)]
    public string $owner = '';
    public Cadence $cadence = Cadence::Never;
    #[Assert\NotBlank(message: 'Give the connection a name, such as live or test.'), Assert\Length(max: 40)]
    public string $label = 'live';
    public string $engine;
    public string $url = '';
    #[Assert\Length(max: 255)]
    public string $host = '';
    #[Assert\Range(min: 1, max: 65535, notInRangeMessage: 'A port is a number from {{ min }} to {{ max }}.')]
    public ?int $port = null;
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
    /** The secret that is kept is asked for again when what it opens has changed. */
    private bool $secretKept = false;
    /** @var array{string, string, int, string}|null what the kept secret opens */
    private ?array $opens = null;

    public function __construct()
    {
        $this->engine = array_keys(Dialects::all())[0];
    }

    public static function of(Source $source, Connection $connection): self
    {
        $input = new self();
        $input->name = $source->name;
        $input->purpose = $source->purpose;
        $input->owner = $source->owner;
        $input->cadence = $source->cadence;
        $input->label = $connection->label;
        $input->engine = $connection->engine;
        $input->host = $connection->host;
        $input->port = $connection->port ?: null;
        $input->database = $connection->database;
        $input->account = $connection->account;
        $input->kept = $connection->path;
        $input->dialect = $connection->dialect;
        $input->secretKept = '' !== $connection->sealedSecret;
        $input->opens = [$connection->engine, $connection->host, $connection->port, $connection->account];

        return $input;
    }

    public function isServer(): bool
    {
        return '' !== trim($this->url) || true === Dialects::named($this->engine)?->isServer();
    }

    /** A kept secret opens this target: it goes to the server and the account that it was given for, and nowhere else. */
    public function opensWithKeptSecret(Target $target): bool
    {
        return $this->secretKept && $this->opens === [$target->engine, $target->host, $target->port, $target->account];
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
            if (true !== Dialects::named($target->engine)?->isServer()) {
                return new Target($target->engine, path: null === $deliveries ? $target->path : $deliveries->allowed($target->path));
            }

            return '' !== $target->secret ? $target : new Target(
                $target->engine,
                $target->host,
                $target->port,
                $target->database,
                $target->account,
                '' === $this->secret ? $kept : $this->secret,
            );
        }
        if (!$this->isServer()) {
            return $this->fileTarget($deliveries);
        }
        if ('' === trim($this->host)) {
            throw new SourceError('No host is given.', 'Paste a connection URL, or fill in at least host and account.');
        }

        return new Target(
            $this->engine,
            trim($this->host),
            $this->port ?? Dialects::of($this->engine)->port(),
            trim($this->database),
            $this->account,
            '' === $this->secret ? $kept : $this->secret,
        );
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
                    throw new SourceError(
                        \sprintf('“%s” did not arrive whole: %s', $file->getClientOriginalName(), $file->getErrorMessage()),
                        'A file beyond the limit can be put into the folder var/files and named by its path.',
                    );
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
        if ([] !== Dialects::of($this->engine)->endings() && is_dir($path)) {
            $path = (glob($path.'/*') ?: [''])[0];
        }

        return new Target($this->engine, path: $path, dialect: $this->dialect);
    }

    /** @throws SourceError */
    public function fill(Source $source, Connection $connection, Vault $vault, Deliveries $deliveries): void
    {
        $target = $this->target('', $deliveries);
        $source->name = trim($this->name);
        $source->purpose = trim($this->purpose);
        $source->owner = trim($this->owner);
        $source->cadence = $this->cadence;
        $connection->label = trim($this->label);
        if (!$this->opensWithKeptSecret($target)) {
            $connection->sealedSecret = '';
        }
        $connection->engine = $target->engine;
        $connection->host = $target->host;
        $connection->port = $target->port;
        $connection->database = $target->database;
        $connection->account = $target->account;
        $connection->path = $target->path;
        $connection->dialect = $target->dialect;
        $connection->inventory = $connection->lookedAt = null;
        if ('' !== $target->secret) {
            $connection->sealedSecret = $vault->seal($target->secret);
        }
    }

    #[Assert\Callback]
    public function checkTarget(ExecutionContextInterface $context): void
    {
        try {
            $target = $this->target();
        } catch (SourceError $e) {
            $context->buildViolation($e->inWords())->atPath(match (true) {
                '' !== trim($this->url) => 'url',
                $this->isServer() => 'host',
                default => 'files',
            })->addViolation();

            return;
        }
        if ($this->secretKept && $this->isServer() && '' === $target->secret && !$this->opensWithKeptSecret($target)) {
            $context->buildViolation('The kept secret was given for another server or account, so it is not sent there. Enter the secret of this one.')
                ->atPath('secret')->addViolation();
        }
    }
}
