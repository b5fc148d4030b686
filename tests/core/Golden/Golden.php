<?php

declare(strict_types=1);

namespace Fasti\Tests\Core\Golden;

/**
 * What real servers said, in tests/golden, so that what reads it is tested without them. Each file holds cases by name; what many cases have in
 * common stands in it once. The tests that ask the servers record it when they are run by `bin/test record`.
 *
 * @phpstan-type Answer array{string, array<string, string|int>, list<string>, list<list<string|null>>}
 * @phpstan-type Told array{of: string, answers: list<Answer>, text: string, more: array<mixed>}
 */
final class Golden
{
    /** @var array<string, self> */
    private static array $open = [];

    /** @var array<string, array{of: string, answers: list<int>, text: string, more: array<mixed>}> */
    private array $cases = [];
    /** @var list<Answer> */
    private array $answers = [];
    /** @var array<string, int> */
    private array $place = [];

    private function __construct(private readonly string $path)
    {
    }

    public static function of(string $name): self
    {
        return self::$open[$name] ??= self::read(\dirname(__DIR__, 2)."/golden/$name.json");
    }

    public static function records(): bool
    {
        return '1' === ($_SERVER['FASTI_RECORD'] ?? '');
    }

    /**
     * @param string       $of      what the server was given; where that changes, what it said is no longer good
     * @param list<Answer> $answers
     * @param array<mixed> $more    anything else that JSON can hold
     */
    public function keep(string $case, string $of, array $answers, string $text = '', array $more = []): void
    {
        $numbers = [];
        foreach ($answers as $answer) {
            $key = md5(serialize($answer));
            if (!isset($this->place[$key])) {
                $this->place[$key] = \count($this->answers);
                $this->answers[] = $answer;
            }
            $numbers[] = $this->place[$key];
        }
        $this->cases[$case] = ['of' => $of, 'answers' => $numbers, 'text' => $text, 'more' => $more];
    }

    /** @return Told|null */
    public function case(string $case): ?array
    {
        $kept = $this->cases[$case] ?? null;

        return null === $kept ? null : ['answers' => array_map(fn (int $number): array => $this->answers[$number], $kept['answers'])] + $kept;
    }

    /** @return list<string> */
    public function names(): array
    {
        return array_keys($this->cases);
    }

    /** Begins again, so that what is not asked any more is not kept. */
    public static function fresh(string $name): self
    {
        return self::$open[$name] = new self(\dirname(__DIR__, 2)."/golden/$name.json");
    }

    public function save(): void
    {
        $flags = \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_SLASHES | \JSON_UNESCAPED_UNICODE | \JSON_PRESERVE_ZERO_FRACTION;
        $answers = array_map(static fn (array $answer): string => json_encode($answer, $flags), $this->answers);
        $cases = array_map(
            static fn (string $name, array $case): string => json_encode($name, $flags).': '.json_encode($case, $flags),
            array_keys($this->cases),
            $this->cases,
        );
        file_put_contents($this->path, "{\"answers\": [\n".implode(",\n", $answers)."\n], \"cases\": {\n".implode(",\n", $cases)."\n}}\n");
    }

    private static function read(string $path): self
    {
        $golden = new self($path);
        if (is_file($path)) {
            /** @var array{answers: list<Answer>, cases: array<string, array{of: string, answers: list<int>, text: string, more: array<mixed>}>} $data */
            $data = json_decode((string) file_get_contents($path), true, 512, \JSON_THROW_ON_ERROR);
            $golden->answers = $data['answers'];
            $golden->cases = $data['cases'];
            foreach ($golden->answers as $number => $answer) {
                $golden->place[md5(serialize($answer))] = $number;
            }
        }

        return $golden;
    }
}
