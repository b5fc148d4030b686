<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\DBAL\Connection;
use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Support\Row;
use Symfony\Component\Filesystem\Filesystem;

/** Makes editions: numbers them, has their folder written, and packs it. */
final readonly class Publisher
{
    public function __construct(private EntityManagerInterface $entities, private Connection $progressConnection, private Site $site, private string $editionsDir)
    {
    }

    /** @param list<int> $scope */
    public function announce(string $title, string $note, ?Account $account, array $scope): Edition
    {
        $highest = $this->progressConnection->fetchOne('SELECT MAX(number) FROM edition');
        $edition = new Edition(1 + (is_numeric($highest) ? (int) $highest : 0), '' === trim($title) ? 'The register' : trim($title), $account);
        $edition->note = trim($note);
        $edition->scope = $scope;
        $this->entities->persist($edition);
        $this->entities->flush();

        return $edition;
    }

    public function folder(int $number): string
    {
        return $this->editionsDir.'/'.$number;
    }

    public function zip(int $number): string
    {
        return $this->editionsDir.'/fasti-edition-'.$number.'.zip';
    }

    public function make(Edition $edition): void
    {
        $files = new Filesystem();
        $making = $this->folder($edition->number).'.making';
        $files->remove($making);
        $tell = function (int $done, int $total) use ($edition): void {
            $this->progressConnection->executeStatement("UPDATE edition SET state = 'running', done = ?, total = ? WHERE id = ?", [$done, $total, $edition->id()]);
        };
        $tell(0, 0);
        try {
            $about = ['number' => $edition->number, 'title' => $edition->title, 'note' => $edition->note, 'by' => $edition->account->name ?? '', 'date' => gmdate('j M Y')];
            $counts = $this->site->write($making, $about, $edition->scope, $tell);
            if (0 === $counts['entries']) {
                throw new \RuntimeException('The register is empty, so there is nothing to publish. Survey a source first.');
            }
            self::pack($making, $this->zip($edition->number), 'fasti-edition-'.$edition->number);
            $files->rename($making, $this->folder($edition->number), true);
        } catch (\Throwable $e) {
            $files->remove([$making, $this->zip($edition->number)]);
            $this->progressConnection->executeStatement("UPDATE edition SET state = 'failed', error = ? WHERE id = ?", [$e instanceof \RuntimeException ? $e->getMessage() : 'Fasti itself failed here; the log of the application says more.', $edition->id()]);
            throw $e;
        }
        $this->progressConnection->executeStatement("UPDATE edition SET state = 'done', made_at = UTC_TIMESTAMP(), counts = ? WHERE id = ?", [json_encode($counts + ['bytes' => (int) filesize($this->zip($edition->number))], \JSON_THROW_ON_ERROR), $edition->id()]);
    }

    /** @return list<int> */
    public function sourceIds(string $name): array
    {
        $id = $this->progressConnection->fetchOne('SELECT id FROM source WHERE name = ?', [$name]);

        return is_numeric($id) ? [Row::int(['id' => $id], 'id')] : [];
    }

    private static function pack(string $folder, string $zip, string $inside): void
    {
        $archive = new \ZipArchive();
        if (true !== $archive->open($zip, \ZipArchive::CREATE | \ZipArchive::OVERWRITE)) {
            throw new \RuntimeException(\sprintf('“%s” cannot be written.', $zip));
        }
        $all = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS));
        foreach ($all as $file) {
            \assert($file instanceof \SplFileInfo);
            $archive->addFile($file->getPathname(), $inside.'/'.substr($file->getPathname(), \strlen($folder) + 1));
        }
        if (!$archive->close()) {
            throw new \RuntimeException(\sprintf('“%s” could not be finished. Is the disk full?', $zip));
        }
    }
}
