<?php

declare(strict_types=1);

namespace Fasti\Account;

use Symfony\Component\Form\AbstractType;
use Symfony\Component\Form\Extension\Core\Type\CheckboxType;
use Symfony\Component\Form\Extension\Core\Type\ChoiceType;
use Symfony\Component\Form\Extension\Core\Type\EmailType;
use Symfony\Component\Form\Extension\Core\Type\PasswordType;
use Symfony\Component\Form\Extension\Core\Type\TextType;
use Symfony\Component\Form\FormBuilderInterface;
use Symfony\Component\OptionsResolver\OptionsResolver;
use Symfony\Component\Validator\Constraints\Length;
use Symfony\Component\Validator\Constraints\NotBlank;

/** @extends AbstractType<Account> */
final class AccountForm extends AbstractType
{
    public function __construct(private readonly Roles $roles)
    {
    }

    public function buildForm(FormBuilderInterface $builder, array $options): void
    {
        $new = true === $options['new'];
        $builder
            ->add('name', TextType::class, ['empty_data' => ''])
            ->add('email', EmailType::class, ['label' => 'E-mail', 'empty_data' => ''])
            ->add(
                'role',
                ChoiceType::class,
                [
                    'choices' => $this->roles->all(),
                    'choice_value' => static fn (?Role $role): string => null === $role ? '' : (string) $role->id(),
                    'choice_label' => 'name',
                    'placeholder' => 'Choose',
                    'help' => 'What each role may do stands below the list of accounts.',
                ],
            )
            ->add('password', PasswordType::class, [
                'mapped' => false, 'required' => $new, 'label' => $new ? 'Password' : 'New password', 'attr' => ['autocomplete' => 'new-password'],
                'help' => $new ? 'Twelve characters or more.' : 'Leave empty to keep the present one.',
                'constraints' => [new Length(min: 12, max: 4096), ...($new ? [new NotBlank()] : [])],
            ]);
        if (!$new) {
            $builder->add('active', CheckboxType::class, ['required' => false, 'label' => 'May sign in']);
        }
    }

    public function configureOptions(OptionsResolver $resolver): void
    {
        $resolver->setDefaults(['data_class' => Account::class, 'new' => false])->setAllowedTypes('new', 'bool');
    }
}
