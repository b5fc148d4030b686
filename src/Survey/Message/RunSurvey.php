<?php

declare(strict_types=1);

namespace Fasti\Survey\Message;

final readonly class RunSurvey
{
    public function __construct(public int $surveyId)
    {
    }
}
