<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Style\SymfonyStyle;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Validator\Validator\ValidatorInterface;

#[AsCommand('fasti:account', 'Makes an account, or gives an existing one a new name, role and password')]
final readonly class MakeAccountCommand
{
    public function __construct(private EntityManagerInterface $entities, private UserPasswordHasherInterface $hasher, private ValidatorInterface $validator)
    {
    }

    public function __invoke(SymfonyStyle $io, #[Argument] string $email, #[Argument] string $name, #[Argument] string $role, #[Argument, \SensitiveParameter] string $password): int
    {
        $account = $this->entities->getRepository(Account::class)->findOneBy(['email' => $email]) ?? new Account();
        $found = Role::tryFrom($role);
        if (null === $found) {
            $io->getErrorStyle()->error('The role is reader, steward or administrator.');

            return Command::FAILURE;
        }
        $account->email = $email;
        $account->name = $name;
        $account->role = $found;
        $account->setPassword($this->hasher->hashPassword($account, $password));
        $faults = $this->validator->validate($account);
        if (\count($faults) > 0) {
            $io->getErrorStyle()->error((string) $faults);

            return Command::FAILURE;
        }
        $this->entities->persist($account);
        $this->entities->flush();
        $io->writeln(\sprintf('%s may sign in as %s.', $email, $role));

        return Command::SUCCESS;
    }
}
