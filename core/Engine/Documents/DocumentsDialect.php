<?php

declare(strict_types=1);

namespace Fasti\Core\Engine\Documents;

use Fasti\Core\Catalog\Column;
use Fasti\Core\Catalog\Seen;
use Fasti\Core\Catalog\Type;
use Fasti\Core\Catalog\TypeFamily;
use Fasti\Core\Dialect\Dialect;
use Fasti\Core\Dialect\MemberTypes;
use Fasti\Core\Engine\Standard\StandardDialect;

/** Files: documents and tables whose types were worked out from what they hold. */
final class DocumentsDialect extends Dialect
{
    public function name(): string
    {
        return 'files';
    }

    public function label(): string
    {
        return 'Files';
    }

    public function rank(): int
    {
        return 80;
    }

    protected function type(string $written): Type
    {
        $standard = $this->standard($written);

        return TypeFamily::Other === $standard->family ? MemberTypes::of($written) : $standard;
    }

    protected function inWords(Type $type): string
    {
        return TypeFamily::Other === $this->standard($type->written)->family
            ? MemberTypes::inWords($type->written, new Seen(0, 0, []))
            : (new StandardDialect())->typeInWords(new Column('', $type->written));
    }

    /** Tables among the files have types of the standard. */
    private function standard(string $written): Type
    {
        return (new StandardDialect())->typeOf(new Column('', $written));
    }

    public function writes(): bool
    {
        return false;
    }
}
