<?php

declare(strict_types=1);

namespace Fasti\Account;

use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Style\SymfonyStyle;

#[AsCommand('fasti:first-code', 'Prints the code with which the first page makes the first administrator; nothing where there is an account')]
final readonly class FirstCodeCommand
{
    public function __construct(private AccountStore $accounts, private FirstCode $code)
    {
    }

    public function __invoke(SymfonyStyle $io): int
    {
        if ($this->accounts->isEmpty()) {
            $io->writeln($this->code->code());
        }

        return Command::SUCCESS;
    }
}
