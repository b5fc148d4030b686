<?php

declare(strict_types=1);

namespace Fasti\Source;

use Doctrine\ORM\Mapping as ORM;

/** How a source is reached. The secret is kept sealed; see Vault. */
#[ORM\Entity]
#[ORM\Table(name: 'connection')]
class Connection
{
    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\Column(length: 40)]
    public string $label = 'live';

    #[ORM\Column(length: 20)]
    public string $engine = 'mariadb';

    #[ORM\Column(length: 255)]
    public string $host = '';

    #[ORM\Column]
    public int $port = 3306;

    #[ORM\Column(name: 'database_name', length: 190)]
    public string $database = '';

    #[ORM\Column(length: 190)]
    public string $account = '';

    /** Of a file or a folder, for sources that are no servers. */
    #[ORM\Column(length: 700)]
    public string $path = '';

    /** The dialect of SQL scripts, empty to work it out. */
    #[ORM\Column(length: 12)]
    public string $dialect = '';

    #[ORM\Column(type: 'text')]
    public string $sealedSecret = '';

    /** @return list<string> names of the files, the first few */
    public function files(): array
    {
        if (!is_dir($this->path)) {
            return '' === $this->path ? [] : [basename($this->path)];
        }

        return \array_slice(array_values(array_filter(array_map(basename(...), glob($this->path.'/*') ?: []), static fn (string $name): bool => !str_starts_with($name, '.'))), 0, 12);
    }

    public function id(): ?int
    {
        return $this->id;
    }
}
