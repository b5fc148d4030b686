<?php

declare(strict_types=1);

namespace Fasti\Register;

/** Something that waits for a person, on the desk. */
final readonly class Claim
{
    /**
     * @param string                $title      what waits: "7 joins proposed"
     * @param string                $why        what makes it pressing: "4 of them above 0.9"
     * @param array<string, mixed>  $parameters of the route
     * @param int                   $press      what has the greater claim comes first; see the constants
     */
    public function __construct(public string $title, public string $why, public string $route, public array $parameters, public int $press)
    {
    }

    /** The register and its source differ: everything else builds on that. */
    public const DRIFT = 90;
    /** What is written may be wrong. */
    public const DOUBT = 80;
    /** A decision that others wait for. */
    public const DECISION = 70;
    /** Work that goes on for long. */
    public const QUEUE = 60;
    public const GAP = 50;
    public const NOTICED = 40;
    public const PUBLISH = 20;
}
