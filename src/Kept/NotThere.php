<?php

declare(strict_types=1);

namespace Fasti\Kept;

use Symfony\Component\HttpKernel\Attribute\WithHttpStatus;

/** There is no such thing, or none that this person sees; which of the two is not told. */
#[WithHttpStatus(404)]
final class NotThere extends \RuntimeException
{
}
