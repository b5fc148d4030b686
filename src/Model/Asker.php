<?php

declare(strict_types=1);

namespace Fasti\Model;

use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Ground;
use Fasti\Core\Model\Trial;
use Fasti\Core\Survey\SourceError;
use Fasti\Core\Survey\Target;
use Fasti\Source\Connection;
use Fasti\Source\Sources;
use Symfony\Component\DependencyInjection\Attribute\Autowire;
use Symfony\Component\Process\PhpExecutableFinder;
use Symfony\Component\Process\Process;

/**
 * Has a source asked what a trial needs, in a process of its own: an engine that computes hears nobody, so that it is the process that is
 * ended when somebody cancels or the time is up, and the session of a server is told to give up.
 */
final readonly class Asker
{
    /** Seconds that one question may take. */
    public const SECONDS = 30;
    private const PAUSE = 20000;

    public function __construct(
        private Sources $sources,
        #[Autowire('%kernel.project_dir%')]
        private string $projectDir,
        #[Autowire('%kernel.environment%')]
        private string $environment,
        #[Autowire('%kernel.debug%')]
        private bool $debug,
    ) {
    }

    /**
     * @param string              $token  by which it can be cancelled; '' where it cannot
     * @param array<int, bool>    $hidden columns whose values are not shown
     * @param array<string, bool> $hiddenFields
     *
     * @throws SourceError with words for people
     */
    public function ask(
        Ground $ground,
        Connection $connection,
        Trial $trial,
        string $today,
        string $token = '',
        array $hidden = [],
        array $hiddenFields = [],
    ): AnswerView {
        $target = $this->sources->targetOf($connection);
        $answer = $this->run($target, [
            'target' => get_object_vars($target), 'model' => OpenForm::of($ground->model), 'catalog' => OpenForm::of($ground->catalog),
            'units' => $ground->units, 'closed' => $ground->closed, 'codes' => $ground->codesIn($trial),
            'trial' => OpenForm::of($trial), 'today' => $today, 'seconds' => self::SECONDS, 'hidden' => $hidden, 'hiddenFields' => $hiddenFields,
        ], $token);
        if (!\is_array($answer['answer'] ?? null)) {
            throw new SourceError(
                \is_string($answer['error'] ?? null) ? $answer['error'] : 'The question ended without an answer.',
                \is_string($answer['advice'] ?? null) ? $answer['advice'] : '',
            );
        }
        /** @var array<string, mixed> $given */
        $given = $answer['answer'];

        return AnswerView::fromArray($given);
    }

    /** Ends a question under way. */
    public function cancel(string $token): void
    {
        if (self::isToken($token)) {
            if (!is_dir($this->folder())) {
                @mkdir($this->folder(), 0700, true);
            }
            touch($this->folder().'/'.$token);
        }
    }

    public static function isToken(string $token): bool
    {
        return 1 === preg_match('/^[0-9a-f]{16,64}$/', $token);
    }

    private function folder(): string
    {
        return $this->projectDir.'/var/asking';
    }

    /**
     * @param array<string, mixed> $given
     *
     * @return array<mixed>
     *
     * @throws SourceError
     */
    private function run(Target $target, array $given, string $token): array
    {
        $process = new Process(
            [(new PhpExecutableFinder())->find(false) ?: 'php', $this->projectDir.'/bin/console', AnswerCommand::NAME, '--no-ansi'],
            $this->projectDir,
            ['APP_ENV' => $this->environment, 'APP_DEBUG' => $this->debug ? '1' : '0'],
            json_encode($given, \JSON_THROW_ON_ERROR | \JSON_INVALID_UTF8_SUBSTITUTE),
            null,
        );
        $flag = self::isToken($token) ? $this->folder().'/'.$token : null;
        $begun = microtime(true);
        $process->start();
        while ($process->isRunning()) {
            usleep(self::PAUSE);
            $late = microtime(true) - $begun > self::SECONDS * 1.5 + 5;
            if ($late || (null !== $flag && is_file($flag))) {
                $this->end($process, $target);
                if (null !== $flag) {
                    @unlink($flag);
                }
                throw $late ? new SourceError(
                    \sprintf('The source needed more than %d seconds, so Fasti gave up on it.', self::SECONDS),
                    'Ask for less at a time, or when the source is less busy.',
                    null,
                    SourceError::OVER_TIME,
                )
                    : new SourceError('The question was cancelled.', 'Ask again when you like.');
            }
        }
        if (null !== $flag && is_file($flag)) {
            @unlink($flag);
        }
        $lines = explode("\n", trim($process->getOutput()));
        $answer = json_decode((string) end($lines), true);
        if (!\is_array($answer)) {
            throw new SourceError(
                'The question ended without an answer.',
                // What a process says that broke may hold values.
                'Ask again; if it ends so once more, ask for less at a time.',
            );
        }

        return $answer;
    }

    private function end(Process $process, Target $target): void
    {
        $head = json_decode(explode("\n", $process->getOutput())[0], true);
        $session = \is_array($head) && \is_string($head['session'] ?? null) ? $head['session'] : '';
        $process->stop(0.0);
        if ('' === $session) {
            return;
        }
        $sql = \Fasti\Core\Dialect\Dialects::of($target->engine)->asking()?->cancelling($session);
        try {
            foreach (null === $sql ? [] : ($this->sources->rows($target, 5, Sources::AT_ONCE)?->rows($sql) ?? []) as $row) {
                continue;
            }
        } catch (SourceError) {
            // It has ended by itself, or ends when it notices that nobody listens.
        }
    }
}
