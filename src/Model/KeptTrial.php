<?php

declare(strict_types=1);

namespace Fasti\Model;

use Doctrine\ORM\Mapping as ORM;
use Fasti\Account\Account;
use Fasti\Core\Catalog\OpenForm;
use Fasti\Core\Model\Trial;

/** A question that is kept with a model, and asked again after each survey and each change. */
#[ORM\Entity]
#[ORM\Table(name: 'kept_trial')]
class KeptTrial
{
    public const UNASKED = '';
    public const ANSWERED = 'answered';
    /** The model cannot answer it, or a key stands twice. */
    public const REFUSED = 'refused';
    /** The source could not be asked. */
    public const FAILED = 'failed';

    #[ORM\Id, ORM\GeneratedValue, ORM\Column(options: ['unsigned' => true])]
    private ?int $id = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false, onDelete: 'CASCADE')]
    public KeptModel $model;

    #[ORM\Column(length: 160)]
    public string $name = '';

    #[ORM\Column(length: 200)]
    public string $neededBy = '';

    #[ORM\Column(type: 'text')]
    public string $expected = '';

    /** The question, as JSON. */
    #[ORM\Column(type: 'text', length: 65535)]
    public string $question = '{}';

    /** A steward lets the rows of its answer into editions. */
    #[ORM\Column]
    public bool $rowsPublished = false;

    /** It is kept no more; its history has the way back. */
    #[ORM\Column]
    public bool $removed = false;

    #[ORM\Column(length: 12)]
    public string $state = self::UNASKED;

    /** Why it was refused, or could not be asked. */
    #[ORM\Column(type: 'text')]
    public string $words = '';

    #[ORM\Column(type: 'text', length: 16777215)]
    public string $plan = '';

    /**
     * The last answer: names of its columns, its first rows, how many there were, whether its totals agree with the facts alone.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $answer = null;

    /**
     * What changed when it was asked last: what in words, and the answer before.
     *
     * @var array<string, mixed>|null
     */
    #[ORM\Column(type: 'json', nullable: true)]
    public ?array $changed = null;

    #[ORM\Column(nullable: true)]
    public ?\DateTimeImmutable $askedAt = null;

    #[ORM\ManyToOne, ORM\JoinColumn(nullable: false)]
    public Account $keptBy;

    public function __construct(KeptModel $model, string $name, Trial $trial, Account $keptBy)
    {
        $this->model = $model;
        $this->name = $name;
        $this->keptBy = $keptBy;
        $this->ask($trial);
    }

    public function id(): int
    {
        return (int) $this->id;
    }

    public function trial(): Trial
    {
        return self::trialOf($this->question);
    }

    public function ask(Trial $trial): void
    {
        $this->question = self::questionOf($trial);
    }

    public static function trialOf(string $question): Trial
    {
        $data = json_decode($question, true);

        return OpenForm::read(Trial::class, \is_array($data) ? $data : []);
    }

    public static function questionOf(Trial $trial): string
    {
        return json_encode(OpenForm::of($trial), \JSON_THROW_ON_ERROR | \JSON_UNESCAPED_UNICODE);
    }
}
