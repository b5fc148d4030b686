<?php

declare(strict_types=1);

namespace Fasti\Core\Cage;

/**
 * What a program sees and may use that works on what somebody wrote or handed in: the programs of the machine, a few files to read, one
 * place of a limited size to write, no network, no processes but its own, nobody's rights. Made by bubblewrap out of the namespaces of
 * Linux (user_namespaces(7), mount_namespaces(7)); the limits of each process are those of setrlimit(2). Caged or not at all: where a cage
 * cannot be made, nothing runs.
 *
 * Nothing of it is left in the file system, and all of it dies with the process that started it, however that one ends.
 */
final readonly class Cage
{
    /** The one place where a program can write; its size is limited, and it is gone with the program. */
    public const WORK = '/work';
    /** The account of the machine, made by bin/prepare, whose rights a program has where Fasti itself is root. */
    public const ACCOUNT = 'fasti-cage';
    /** An empty place in which nobody can write; where it is seen, the cage stands. */
    public const NOTHING = '/nothing';
    private const NAME = 'fasti-cage';
    private const NOBODY = '65534';
    private const FOLDERS = ['/usr/bin', '/bin', '/usr/sbin', '/sbin', '/usr/local/bin', '/usr/local/sbin'];

    /**
     * @param array<string, string>  $reads       path outside → path inside, for reading; one that is not there is left out where it begins with `?`
     * @param array<string, list<string>> $only   folders inside of which nothing is seen but these files
     * @param int                    $disk        MiB that may be written
     * @param int                    $memory      MiB of address space that each process may have
     * @param int                    $processes   processes and threads
     * @param int                    $seconds     of computing that each process may use
     * @param array<string, string>  $environment
     * @param bool                   $asNobody    false: as the account that Fasti runs as, without any of its privileges, for files that are its
     *                                            own to read; nothing that it could write is there
     */
    public function __construct(
        private array $reads = [],
        private array $only = [],
        private int $disk = 16,
        private int $memory = 1024,
        private int $processes = 64,
        private int $seconds = 60,
        private array $environment = [],
        private bool $asNobody = true,
    ) {
    }

    /**
     * The command line that runs a program in the cage.
     *
     * @param list<string> $program
     *
     * @return list<string>
     *
     * @throws CageError
     */
    public function command(array $program): array
    {
        $root = 0 === posix_geteuid();
        $apart = $root && $this->asNobody;
        if ($apart && false === posix_getpwnam(self::ACCOUNT)) {
            throw new CageError(\sprintf(
                'The account “%s”, as which such programs run, is not on this machine. Run bin/prepare once as root, which makes it.',
                self::ACCOUNT,
            ));
        }
        $inside = [
            self::program('bwrap'), '--unshare-pid', '--unshare-net', '--unshare-ipc', '--unshare-uts', '--unshare-cgroup-try',
            '--die-with-parent', '--new-session',
            '--hostname', self::NAME, '--clearenv', '--setenv', 'PATH', '/usr/bin:/usr/sbin', '--setenv', 'HOME', self::WORK, '--setenv', 'TMPDIR', self::WORK,
            '--setenv', 'LC_ALL', 'C.UTF-8', ...$this->settings(), ...self::programs(), ...$this->places(), '--chdir', self::WORK,
        ];
        // Root's own mounts need no namespace of users, but the right to become somebody else; everybody else gets no right at all.
        $as = $apart ? ['--cap-drop', 'ALL', '--cap-add', 'CAP_SETUID', '--cap-add', 'CAP_SETGID', '--cap-add', 'CAP_SETPCAP', '--']
            : ['--unshare-user', '--uid', self::NOBODY, '--gid', self::NOBODY, '--cap-drop', 'ALL', '--'];
        $become = !$apart ? [] : [
            self::program('setpriv'), '--reuid', self::ids()[0], '--regid', self::ids()[1], '--clear-groups', '--no-new-privs',
            '--inh-caps=-all', '--bounding-set=-all', '--',
        ];

        return [...$inside, ...$as, ...$become, ...$this->limits(), ...$program];
    }

    /**
     * Runs a program to its end.
     *
     * @param list<string> $program
     *
     * @return string what it says
     *
     * @throws CageError where it cannot be run, needs longer than it may, or ends with an error, whose words it has
     */
    public function run(array $program, string $input = ''): string
    {
        $child = $this->start($program);
        $child->write($input, true);

        return $child->finish($this->seconds);
    }

    /**
     * @param list<string> $program
     *
     * @throws CageError
     */
    public function start(array $program): Child
    {
        // bubblewrap binds its life to ours some moments after it began; until then, setpriv has.
        return new Child(Child::bound($this->command($program)), basename($program[0]), [], self::accounts());
    }

    /**
     * Ends cages whose owner was killed in the first moments of theirs, before they could bind their lives to it.
     *
     * @return int how many there were
     */
    public static function sweep(): int
    {
        $ended = 0;
        foreach (glob('/proc/[0-9]*/cmdline') ?: [] as $file) {
            $words = explode("\0", (string) @file_get_contents($file));
            $stat = (string) @file_get_contents(\dirname($file).'/stat');
            $parent = explode(' ', trim(substr($stat, (int) strrpos($stat, ')') + 1)))[1] ?? '';
            if ('1' === $parent && 'bwrap' === basename($words[0]) && \in_array(self::NAME, $words, true)) {
                self::kill((int) basename(\dirname($file)));
                ++$ended;
            }
        }

        return $ended;
    }

    /** What is first in a namespace of processes takes all others along. */
    private static function kill(int $id): void
    {
        foreach (explode(' ', trim((string) @file_get_contents("/proc/$id/task/$id/children"))) as $child) {
            if ('' !== $child) {
                self::kill((int) $child);
            }
        }
        posix_kill($id, \SIGKILL);
    }

    /** Why no cage can be made here; null where one can. */
    public static function missing(): ?string
    {
        try {
            (new self())->run(['true']);

            return null;
        } catch (CageError $e) {
            return $e->getMessage();
        }
    }

    /**
     * Where a program of the machine is. Links that lead over what is not in the cage are followed; others are not, since some programs
     * go by the name by which they are called.
     *
     * @throws CageError
     */
    public static function program(string $name, string ...$folders): string
    {
        foreach ([...self::FOLDERS, ...$folders] as $folder) {
            $path = "$folder/$name";
            if (is_executable($path)) {
                return is_link($path) && str_starts_with((string) readlink($path), '/etc/') ? (string) realpath($path) : $path;
            }
        }
        throw new CageError(\sprintf('%s is not installed here. bin/prepare installs it.', $name));
    }

    /** @return list<string> */
    private function limits(): array
    {
        return [
            self::program('prlimit'), '--core=0', '--nofile=4096', '--nproc='.$this->processes, '--as='.$this->memory * 1048576,
            '--fsize='.$this->disk * 1048576,
            '--cpu='.$this->seconds, '--',
        ];
    }

    /** @return list<string> */
    private static function programs(): array
    {
        $parts = ['--ro-bind', '/usr', '/usr'];
        foreach (['bin', 'sbin', 'lib', 'lib32', 'lib64', 'libx32'] as $folder) {
            if (is_link("/$folder")) {
                array_push($parts, '--symlink', (string) readlink("/$folder"), "/$folder");
            } elseif (is_dir("/$folder")) {
                array_push($parts, '--ro-bind', "/$folder", "/$folder");
            }
        }

        return [...$parts, '--perms', '0755', '--dir', '/etc', '--perms', '0644', '--file', '3', '/etc/passwd'];
    }

    /** @return list<string> */
    private function places(): array
    {
        $size = (string) ($this->disk * 1048576);
        $parts = [
            '--dev', '/dev', '--perms', '1777', '--size', $size, '--tmpfs', '/dev/shm', '--remount-ro', '/dev',
            '--perms', '1777', '--size', $size, '--tmpfs', self::WORK,
            '--size', '4096', '--tmpfs', self::NOTHING, '--remount-ro', self::NOTHING,
        ];
        foreach ($this->only as $folder => $files) {
            array_push($parts, '--size', '1048576', '--tmpfs', $folder);
            foreach ($files as $file) {
                array_push($parts, '--ro-bind', $file, $folder.'/'.basename($file));
            }
            array_push($parts, '--remount-ro', $folder);
        }
        foreach ($this->reads as $outside => $inside) {
            array_push($parts, str_starts_with($outside, '?') ? '--ro-bind-try' : '--ro-bind', ltrim($outside, '?'), $inside);
        }

        return [...$parts, '--remount-ro', '/'];
    }

    /** @return list<string> */
    private function settings(): array
    {
        $parts = [];
        foreach ($this->environment as $name => $value) {
            array_push($parts, '--setenv', $name, $value);
        }

        return $parts;
    }

    /** The accounts that programs find in the cage: their own. */
    private static function accounts(): string
    {
        $line = static fn (string $name, string $user, string $group): string => "$name:x:$user:$group::".self::WORK.":/usr/sbin/nologin\n";

        return $line('nobody', self::NOBODY, self::NOBODY).(self::NOBODY === self::ids()[0] ? '' : $line(self::ACCOUNT, ...self::ids()));
    }

    /** @return array{string, string} user and group of the account */
    private static function ids(): array
    {
        $known = posix_getpwnam(self::ACCOUNT);

        return false === $known ? [self::NOBODY, self::NOBODY] : [(string) $known['uid'], (string) $known['gid']];
    }
}
