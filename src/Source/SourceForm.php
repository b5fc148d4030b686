<?php

declare(strict_types=1);

namespace Fasti\Source;

use Fasti\Core\Dialect\Dialects;
use Fasti\Core\Dialect\Grammar;
use Fasti\Source\Connector\Connectors;
use Symfony\Component\Form\AbstractType;
use Symfony\Component\Form\Extension\Core\Type\ChoiceType;
use Symfony\Component\Form\Extension\Core\Type\EnumType;
use Symfony\Component\Form\Extension\Core\Type\FileType;
use Symfony\Component\Form\Extension\Core\Type\IntegerType;
use Symfony\Component\Form\Extension\Core\Type\PasswordType;
use Symfony\Component\Form\Extension\Core\Type\TextareaType;
use Symfony\Component\Form\Extension\Core\Type\TextType;
use Symfony\Component\Form\FormBuilderInterface;
use Symfony\Component\OptionsResolver\OptionsResolver;

/** @extends AbstractType<SourceInput> */
final class SourceForm extends AbstractType
{
    public function __construct(private readonly Connectors $connectors)
    {
    }

    public function buildForm(FormBuilderInterface $builder, array $options): void
    {
        $text = ['required' => false, 'empty_data' => ''];
        $plain = ['autocomplete' => 'off', 'spellcheck' => 'false', 'autocapitalize' => 'none'];
        $dialects = array_map(static fn (Grammar $grammar): string => $grammar->label, Dialects::grammars());
        $builder
            ->add('name', TextType::class, ['empty_data' => '', 'help' => 'What people call this source when they talk.'])
            ->add('purpose', TextareaType::class, $text + ['help' => 'What it is used for, in a sentence or two.', 'attr' => ['rows' => 2]])
            ->add('owner', TextType::class, $text + ['help' => 'Whom to ask about it.'])
            ->add('cadence', EnumType::class, [
                'class' => Cadence::class, 'label' => 'Surveyed', 'choice_label' => static fn (Cadence $cadence): string => $cadence->inWords(),
                'help' => 'By the system\'s scheduler, which calls fasti:survey-due.',
            ])
            ->add(
                'label',
                TextType::class,
                ['empty_data' => '', 'label' => 'Called', 'attr' => $plain, 'help' => 'What people call this way to it: live, test.'],
            )
            ->add('engine', ChoiceType::class, ['label' => 'Kind', 'expanded' => true, 'choices' => $this->engines(), 'choice_attr' => $this->asks(...)])
            ->add('url', TextType::class, $text + [
                'label' => 'Connection URL', 'attr' => $plain, 'help' => 'Paste it whole and the fields below fill themselves, or leave it empty.',
            ])
            ->add('host', TextType::class, $text + ['attr' => $plain])
            ->add('port', IntegerType::class, ['required' => false])
            ->add('database', TextType::class, $text + ['attr' => $plain, 'help' => 'Empty: every schema the account may read, where the server allows that.'])
            ->add('account', TextType::class, $text + ['attr' => $plain])
            ->add('secret', PasswordType::class, $text + [
                'attr' => ['autocomplete' => 'new-password'], 'trim' => false,
                'help' => true === $options['kept']
                    ? 'Leave empty to keep the present one, for this server and account.'
                    : 'Kept sealed, and never shown again.',
            ])
            ->add('files', FileType::class, [
                'required' => false, 'multiple' => true, 'label' => 'Hand in', 'attr' => ['accept' => '.'.implode(',.', Deliveries::endings())],
            ])
            ->add('path', TextType::class, $text + [
                'label' => 'Or a path', 'attr' => $plain,
                'help' => 'Of a file or folder below var/files on the machine of Fasti, for what is too large to hand in.',
            ])
            ->add(
                'dialect',
                ChoiceType::class,
                $text + ['label' => 'Dialect', 'choices' => ['worked out from the script' => ''] + array_flip($dialects), 'help' => 'Of scripts of SQL.'],
            );
    }

    /** @return array<string, string> label → engine */
    private function engines(): array
    {
        $engines = [];
        foreach (array_keys($this->connectors->all()) as $engine) {
            $engines[Dialects::of($engine)->label()] = $engine;
        }

        return $engines;
    }

    /** @return array<string, string> what the script of the form needs to know of an engine */
    private function asks(string $engine): array
    {
        $dialect = Dialects::of($engine);
        $schemes = $dialect->schemes();

        return [
            'data-fields' => implode(' ', $this->connectors->of($engine)->fields()),
            'data-port' => 0 === $dialect->port() ? '' : (string) $dialect->port(),
            'data-schemes' => implode(' ', array_keys($schemes)),
        ];
    }

    public function configureOptions(OptionsResolver $resolver): void
    {
        $resolver->setDefaults(['data_class' => SourceInput::class, 'kept' => false])->setAllowedTypes('kept', 'bool');
    }
}
