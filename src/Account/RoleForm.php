<?php

declare(strict_types=1);

namespace Fasti\Account;

use Fasti\Account\Act\Act;
use Symfony\Component\Form\AbstractType;
use Symfony\Component\Form\Extension\Core\Type\ChoiceType;
use Symfony\Component\Form\Extension\Core\Type\TextType;
use Symfony\Component\Form\FormBuilderInterface;
use Symfony\Component\Validator\Constraints\Length;
use Symfony\Component\Validator\Constraints\NotBlank;
use Symfony\Component\Validator\Constraints\Regex;

/** @extends AbstractType<array{name: string, acts: list<string>}> */
final class RoleForm extends AbstractType
{
    public function buildForm(FormBuilderInterface $builder, array $options): void
    {
        $builder
            ->add('name', TextType::class, ['empty_data' => '', 'constraints' => [
                new NotBlank(), new Length(max: 40),
                new Regex(
                    '/^[\p{L}\p{N}][\p{L}\p{N} _-]*$/u',
                    'A name of a role has letters, digits, blanks and hyphens, and begins with a letter or a digit.',
                ),
            ]])
            ->add('acts', ChoiceType::class, [
                'label' => 'May', 'expanded' => true, 'multiple' => true, 'required' => false,
                'choices' => array_diff(array_flip(Act::WORDS), [Act::READ]),
                'help' => 'Whoever may sign in may look things up.',
            ]);
    }
}
