<?php

declare(strict_types=1);

namespace Fasti\Core\Privacy;

/** Given names that are common in Europe: a small list, enough to tell a column of people from one of places. */
final class GivenNames
{
    private const ALL = 'adam adrian agata agnes agnieszka alain alan albert aldo alejandro aleksander alessandro alessia alex '
        .'alexander alexandra alfonso alfred alice alicia alina alison amelia ana anders andrea andreas andrew andrzej angela angelo '
        .'anita anke ann anna anne anneke annika antoine anton antonia antonio arnaud arne arthur astrid aurelie barbara bart bartosz '
        .'beata beatrice beatriz ben benjamin benoit bernard bernd bert birgit birgitta bjorn bob boris brian brigitte bruno camille '
        .'carl carla carlo carlos carmen carol carolina caroline catherine cecilia cecile celine charles charlotte chiara chloe '
        .'chris christa christian christina christine christoph christophe claire clara claude claudia claudio colin cornelia cristina '
        .'daan damian daniel daniela danuta dariusz david davide debora denis denise diana diego dieter dirk dominik dominika dominique '
        .'doris dorota dorothea eduardo edward eleanor elena eleonora elisa elisabeth elizabeth elke ella elsa emil emilia emilie '
        .'emily emma enrico enrique eric erica erik erika ernst esther eva evelyn ewa fabian fabien fabio federica federico felipe '
        .'felix femke fernando filip florian france francesca francesco francis francisca francisco francois francoise frank franz '
        .'frederic frederik friedrich gabriel gabriela gabriella geert george georg georges gerard gerd gerhard giada gianluca '
        .'gianni giorgia giorgio giovanna giovanni giulia giuseppe gloria grace grazyna greta grzegorz guido guillaume guillermo '
        .'gunter gustav hanna hannah hanne hans harald harry heidi heike heinrich heinz helen helena helene helga helmut hendrik '
        .'henk henri henrik henry herbert hermann hilde holger hugo ian ignacio ilona ilse inga inge ingrid irena irene iris isabel '
        .'isabella isabelle ivan iwona jaap jack jacek jacqueline jacques jakob jakub james jan jana jane janet janina janusz jasmin '
        .'javier jean jeanne jens jeremy jerzy jessica joan joana joanna joao jochen joe johan johann johanna johannes john jolanta '
        .'jonas jonathan joost jorg jorge jose josef joseph joshua juan judith julia julian juliette julie julien jurgen justyna '
        .'kamil karin karina karl karolina katarzyna kate katharina katharine kathrin katja katrin kazimierz kees keith kerstin '
        .'kevin kim klaas klara klaus krystyna krzysztof kristin kurt lars laura laurence laurent lea lena leo leon leonie lidia '
        .'liam linda lisa lorenzo lotte louis louise luc luca lucas lucia lucie lucy luis luisa lukas lukasz lydia maarten maciej '
        .'magdalena maike malgorzata manfred manon manuel manuela marc marcel marcin marco marek margaret margarita margot maria '
        .'marian marianne marie marieke mario marion mark markus marleen marlene marta martha martin martina martine mary maryse '
        .'mateusz mathieu mathilde matteo matthew matthias matthieu maurice max maximilian melanie mette mia michael michal michel '
        .'michele michelle miguel mike mikael mikolaj mila milena mirjam miroslaw mohamed monica monika monique nadia nadine natalia '
        .'natalie nathalie nele nicholas nick nicola nicolas nicole niels nils nina noah nora norbert octavio odile ola olaf ole '
        .'oliver olivia olivier oscar oskar otto pablo paola paolo pascal patricia patrick patrik patrycja paul paula paulina pauline '
        .'pawel pedro per peter petra philip philipp philippe pia piero pierre pieter pietro piotr rachel rafael rafal ralf ramon '
        .'raquel raul rebecca regina reinhard renata renate rene ricardo riccardo richard rita robert roberta roberto robin roger '
        .'roland rolf roman romain rosa rosemarie rudolf ruth ryszard sabine sabrina salvatore sam samuel sandra sandrine sara '
        .'sarah saskia sebastian sebastien sergio silke silvia simon simona simone sofia sofie solene sonia sophia sophie stanislaw '
        .'stefan stefania stefanie stefano steffen stella stephan stephane stephanie stephen steve steven susan susana susanne '
        .'sven svenja sylvia sylvie tadeusz tanja teresa thea theo theresa thierry thomas thibault tim timo tobias tom tomas tomasz '
        .'tommaso ulrich ulrike urszula ursula ute uwe valentina valerie vanessa vera veronica veronika veronique vicente victor '
        .'victoria viktor vincent vincenzo virginia virginie waldemar walter wendy werner wieslaw wilhelm willem william wim wojciech '
        .'wolfgang xavier yann yannick yvonne yves zbigniew zofia zoe zuzanna';

    /** @var array<string, true>|null */
    private static ?array $all = null;

    /** @return array<string, true> in small letters, with and without accents */
    public static function all(): array
    {
        if (null === self::$all) {
            self::$all = array_fill_keys(explode(' ', self::ALL), true) + array_fill_keys([
                'rené', 'françois', 'françoise', 'jürgen', 'jörg', 'günter', 'günther', 'björn', 'søren', 'chloé', 'zoé', 'hélène', 'aurélie',
                'cécile', 'céline', 'benoît', 'frédéric', 'jérôme', 'sébastien',
                'stéphane', 'stéphanie', 'véronique', 'valérie', 'thérèse', 'andré', 'josé', 'maría', 'jesús', 'ángel', 'andrés', 'sofía', 'lucía',
                'raúl', 'tomás', 'joão', 'łukasz', 'paweł', 'michał', 'rafał',
                'małgorzata', 'agnieszka', 'stanisław', 'zoë', 'kåre', 'åsa', 'göran', 'märta', 'mikołaj', 'grażyna', 'léa', 'loïc', 'gaëlle',
                'anaïs', 'nicolò', 'niccolò', 'elżbieta', 'bożena', 'mónica', 'inés', 'begoña',
            ], true);
        }

        return self::$all;
    }
}
