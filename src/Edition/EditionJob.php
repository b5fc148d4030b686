<?php

declare(strict_types=1);

namespace Fasti\Edition;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Act\Act;
use Fasti\Work\Job;
use Fasti\Work\JobFailed;
use Fasti\Work\LeavesThings;
use Fasti\Work\Running;
use Symfony\Component\Filesystem\Filesystem;

/** Makes an edition: has its folder written, packs it, and renames it into place when it is whole. */
final readonly class EditionJob implements LeavesThings
{
    public const NAME = 'edition';

    public function __construct(private EntityManagerInterface $entities, private Site $site, private string $editionsDir)
    {
    }

    public function name(): string
    {
        return self::NAME;
    }

    public function act(): string
    {
        return Act::PUBLISH;
    }

    public function pauses(): bool
    {
        return false;
    }

    public function urgency(): int
    {
        return 5;
    }

    public function page(Job $job): array
    {
        return ['editions', []];
    }

    public function wordsWhenBroken(Job $job): string
    {
        return 'The worker stopped in the middle. Publish again.';
    }

    public function cameToItsEnd(Job $job): bool
    {
        return null !== $this->editionOf($job)->madeAt;
    }

    public function sweep(Job $job): void
    {
        $number = $this->editionOf($job)->number;
        // An archive is packed under a name of its own until it is whole.
        (new Filesystem())->remove([$this->editionsDir."/$number.making", ...(glob($this->editionsDir."/fasti-edition-$number.zip*") ?: [])]);
    }

    public function run(Running $running): void
    {
        $edition = $this->editionOf($running->job);
        $files = new Filesystem();
        $folder = $this->editionsDir.'/'.$edition->number;
        $zip = $this->editionsDir.'/fasti-edition-'.$edition->number.'.zip';
        $making = $folder.'.making';
        $files->remove($making);
        try {
            $about = new About($edition->number, $edition->title, $edition->note, $edition->account->name ?? '', gmdate('j M Y'));
            $counts = $this->site->write($making, $about, $edition->scope, $running);
            if (0 === $counts['entries']) {
                throw new JobFailed('The register is empty, so there is nothing to publish. Survey a source first.');
            }
            $running->at('Packing the edition', 0, 0);
            self::pack($making, $zip, 'fasti-edition-'.$edition->number);
            $files->rename($making, $folder, true);
        } catch (\Throwable $e) {
            $files->remove([$making, $zip]);
            throw $e;
        }
        // Reading everything in one snapshot has let go of what was loaded before.
        $made = $this->editionOf($running->job);
        $made->counts = $counts + ['bytes' => (int) filesize($zip)];
        $made->madeAt = new \DateTimeImmutable();
        $this->entities->flush();
    }

    private function editionOf(Job $job): Edition
    {
        return $this->entities->getRepository(Edition::class)->findOneBy(['job' => $job->id()]) ?? throw new JobFailed('The edition is not there any more.');
    }

    private static function pack(string $folder, string $zip, string $inside): void
    {
        $archive = new \ZipArchive();
        if (true !== $archive->open($zip, \ZipArchive::CREATE | \ZipArchive::OVERWRITE)) {
            throw new JobFailed(\sprintf('“%s” cannot be written. Check that the folder exists and may be written.', $zip));
        }
        $all = new \RecursiveIteratorIterator(new \RecursiveDirectoryIterator($folder, \FilesystemIterator::SKIP_DOTS));
        foreach ($all as $file) {
            \assert($file instanceof \SplFileInfo);
            $archive->addFile($file->getPathname(), $inside.'/'.substr($file->getPathname(), \strlen($folder) + 1));
        }
        if (!$archive->close()) {
            throw new JobFailed(\sprintf('“%s” could not be finished. Is the disk full?', $zip));
        }
    }
}
