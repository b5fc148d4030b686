<?php

declare(strict_types=1);

namespace Fasti\Account;

use Doctrine\ORM\EntityManagerInterface;
use Symfony\Component\Console\Attribute\Argument;
use Symfony\Component\Console\Attribute\AsCommand;
use Symfony\Component\Console\Command\Command;
use Symfony\Component\Console\Input\InputInterface;
use Symfony\Component\Console\Input\StreamableInputInterface;
use Symfony\Component\Console\Style\SymfonyStyle;
use Symfony\Component\PasswordHasher\Hasher\UserPasswordHasherInterface;
use Symfony\Component\Validator\Validator\ValidatorInterface;

#[AsCommand('fasti:account', 'Makes an account, or gives an existing one a new name, role and password')]
final readonly class MakeAccountCommand
{
    private const SHORTEST = 12;

    public function __construct(
        private EntityManagerInterface $entities,
        private UserPasswordHasherInterface $hasher,
        private ValidatorInterface $validator,
        private Roles $roles,
    ) {
    }

    /** The password is asked for, or read from standard input: among the arguments, everyone on the machine could see it. */
    public function __invoke(SymfonyStyle $io, InputInterface $input, #[Argument] string $email, #[Argument] string $name, #[Argument] string $role): int
    {
        $account = $this->entities->getRepository(Account::class)->findOneBy(['email' => $email]) ?? new Account();
        $found = $this->roles->named($role);
        if (null === $found) {
            $names = array_map(static fn (Role $one): string => $one->name, $this->roles->all());
            $io->getErrorStyle()->error(\sprintf('There is no role “%s”. There are: %s.', $role, implode(', ', $names)));

            return Command::FAILURE;
        }
        $password = $this->password($io, $input);
        if (mb_strlen($password) < self::SHORTEST) {
            $io->getErrorStyle()->error(\sprintf(
                'A password has %d characters at least. Type it when it is asked for, or send it to standard input.',
                self::SHORTEST,
            ));

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

    private function password(SymfonyStyle $io, InputInterface $input): string
    {
        $stream = $input instanceof StreamableInputInterface ? $input->getStream() : null;
        if (null === $stream && $input->isInteractive() && stream_isatty(\STDIN)) {
            $asked = $io->askHidden('Password');

            return \is_string($asked) ? $asked : '';
        }

        return rtrim((string) stream_get_contents($stream ?? \STDIN), "\r\n");
    }
}
