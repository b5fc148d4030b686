<?php

declare(strict_types=1);

namespace Fasti\Design\Scratch;

use Fasti\Core\Cage\Cage;
use Fasti\Core\Cage\CageError;
use Fasti\Core\Survey\SourceError;
use Symfony\Component\DependencyInjection\Attribute\Autowire;

/**
 * The data of an empty server, made once for each version of its programs and kept packed, so that a server begins within a second. It is
 * made in a cage too, and holds nothing of anybody.
 */
final readonly class Template
{
    /** Of an attempt that was killed in the middle, after so many seconds. */
    private const STALE = 600;

    public function __construct(#[Autowire('%kernel.project_dir%/var/scratch')] private string $folder)
    {
    }

    /**
     * @param string $make what makes the data in `data`, where it is run
     *
     * @return string the path of the packed data
     *
     * @throws SourceError
     */
    public function of(string $engine, Cage $cage, string $program, string $make): string
    {
        $kept = $this->folder.'/'.$engine.'-'.substr(hash('xxh128', $make.filesize($program).filemtime($program)), 0, 12).'.tar.gz';
        if (!is_file($kept)) {
            $this->swept();
            $new = $kept.'.'.getmypid().'.making';
            try {
                $packed = $cage->run(['/usr/bin/bash', '-c', "set -e; ($make) 1>&2; chmod 700 data; tar -cf - data | gzip -1"]);
            } catch (CageError $e) {
                throw new SourceError('The scratch server could not be made.', $e->getMessage(), $e);
            }
            file_put_contents($new, $packed);
            // Where it is read, somebody without rights does.
            chmod($new, 0o644);
            rename($new, $kept);
        }

        return $kept;
    }

    /** Takes away what an attempt left that was killed, and what earlier versions kept. */
    private function swept(): void
    {
        if (!is_dir($this->folder)) {
            mkdir($this->folder, 0o700, true);
        }
        foreach (glob($this->folder.'/*.making') ?: [] as $left) {
            if (time() - (int) @filemtime($left) > self::STALE) {
                @unlink($left);
            }
        }
    }
}
