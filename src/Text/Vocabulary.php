<?php

declare(strict_types=1);

namespace Fasti\Text;

use Symfony\Component\DependencyInjection\Attribute\AutowireIterator;
use Twig\Attribute\AsTwigFunction;

/** All that can be written about, and the texts of each. */
final class Vocabulary
{
    /** @var array<string, Topic>|null */
    private ?array $topics = null;
    /** @var array<string, array<string, Property>>|null by topic and name */
    private ?array $properties = null;
    /** @var array<string, list<Property>> by topic: asked for with each field of each entry */
    private array $amongFacts = [];

    /**
     * @param iterable<Topic>      $allTopics
     * @param iterable<Properties> $allProperties
     */
    public function __construct(
        #[AutowireIterator(Topic::class)]
        private readonly iterable $allTopics,
        #[AutowireIterator(Properties::class)]
        private readonly iterable $allProperties,
    ) {
    }

    /** @throws BadText */
    public function topic(string $name): Topic
    {
        if (null === $this->topics) {
            $this->topics = [];
            foreach ($this->allTopics as $topic) {
                $this->topics[$topic->name()] = $topic;
            }
        }

        return $this->topics[$name] ?? throw new BadText('It is not said what this text is about.');
    }

    /** @throws BadText */
    public function property(string $topic, string $name): Property
    {
        return $this->known()[$topic][$name] ?? throw new BadText(\sprintf('A %s has no text called “%s”.', $topic, $name));
    }

    /** A property for templates, which know it by a fixed name. */
    #[AsTwigFunction('property')]
    public function named(string $topic, string $name): Property
    {
        return $this->property($topic, $name);
    }

    /** @return list<Property> those of a topic that show by themselves among its facts */
    #[AsTwigFunction('properties_among_facts')]
    public function amongFacts(string $topic): array
    {
        return $this->amongFacts[$topic] ??= array_values(array_filter(
            $this->known()[$topic] ?? [],
            static fn (Property $property): bool => $property->shownAmongFacts(),
        ));
    }

    /** What people are told of a property that may not be written any more, as the history still may name it. */
    #[AsTwigFunction('property_label')]
    public function label(string $topic, string $name): string
    {
        return 'name' === $name ? 'name in the source' : ($this->known()[$topic][$name] ?? null)?->label() ?? $name;
    }

    /** What a change did, in words; '' where its texts say so themselves. */
    #[AsTwigFunction('change_in_words')]
    public function changeInWords(string $topic, string $name, string $before, string $after): string
    {
        return ($this->known()[$topic][$name] ?? null)?->inWords($before, $after) ?? '';
    }

    #[AsTwigFunction('property_is_written')]
    public function isWritten(string $topic, string $name): bool
    {
        return isset($this->known()[$topic][$name]);
    }

    /** @return array<string, array<string, Property>> */
    private function known(): array
    {
        if (null === $this->properties) {
            $this->properties = [];
            foreach ($this->allProperties as $properties) {
                foreach ($properties->all() as $property) {
                    $this->properties[$property->topic()][$property->name()] = $property;
                }
            }
        }

        return $this->properties;
    }
}
