<?php

declare(strict_types=1);

namespace Fasti\Core\Model;

/** The codes that stand in an attribute, with the labels that people know them by. */
final readonly class CodeLabels
{
    /** @param array<array-key, string> $labels code → label; '' for one that has none */
    public function __construct(private array $labels)
    {
    }

    /** The label of a code; null where it is no code of the list or has none. */
    public function of(?string $code): ?string
    {
        // Fields of a fixed length come with spaces behind.
        $label = null === $code ? '' : trim($this->labels[$code] ?? $this->labels[rtrim($code)] ?? '');

        return '' === $label || $label === $code ? null : $label;
    }

    /** The label, with the code where several have the same. */
    public function told(?string $code): ?string
    {
        $label = $this->of($code);

        return null !== $label && \count($this->meant($label)) > 1 ? "$label – $code" : $label;
    }

    /** @return list<string> the codes that are meant: what is a code is that one, else all that have such a label; none where there is neither */
    public function meant(string $words): array
    {
        return isset($this->labels[$words]) ? [$words]
            : $this->where(static fn (string $label): bool => $label === ModelNames::folded($words));
    }

    /** @return list<string> codes with a label that begins with some words, or has them within */
    public function holding(string $words, bool $begins): array
    {
        $words = ModelNames::folded($words);

        return '' === $words ? [] : $this->where(
            static fn (string $label): bool => $begins ? str_starts_with($label, $words) : str_contains($label, $words),
        );
    }

    /** A code as conditions show it: with its label. What is none stays as it is. */
    public function shown(string $value): string
    {
        $code = $this->meant($value)[0] ?? $value;
        $label = $this->of($code);

        return null === $label || \count($this->meant($value)) > 1 ? $value : "$label – $code";
    }

    /** @return list<array{code: string, label: string}> the first of them; none where there are more, so that nobody takes some for all */
    public function offered(int $most): array
    {
        $offered = [];
        foreach (\count($this->labels) > $most ? [] : $this->labels as $code => $label) {
            $offered[] = ['code' => (string) $code, 'label' => trim($label)];
        }

        return $offered;
    }

    /** @return list<string> labels, and codes without one */
    public function words(): array
    {
        $words = [];
        foreach ($this->labels as $code => $label) {
            $words[] = '' === trim($label) ? (string) $code : trim($label);
        }

        return $words;
    }

    /**
     * @param \Closure(string): bool $fits a label, folded
     *
     * @return list<string>
     */
    private function where(\Closure $fits): array
    {
        $codes = [];
        foreach ($this->labels as $code => $label) {
            if ('' !== trim($label) && $fits(ModelNames::folded($label))) {
                $codes[] = (string) $code;
            }
        }

        return $codes;
    }
}
