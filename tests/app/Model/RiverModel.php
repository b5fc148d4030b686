<?php

declare(strict_types=1);

namespace Fasti\Tests\App\Model;

use Doctrine\ORM\EntityManagerInterface;
use Fasti\Account\Account;
use Fasti\Core\Model\ModelFile;
use Fasti\Demo\Mart;
use Fasti\Model\Editing;
use Fasti\Model\KeptModel;
use Fasti\Model\Models;
use Fasti\Source\Source;

/** The model of the demo over its analytics database. */
trait RiverModel
{
    private static string $file;

    public static function setUpBeforeClass(): void
    {
        self::$file = sys_get_temp_dir().'/fasti-mart-'.bin2hex(random_bytes(4)).'.sqlite';
        Mart::make(new \PDO('sqlite:'.self::$file, null, null, [\PDO::ATTR_ERRMODE => \PDO::ERRMODE_EXCEPTION]));
    }

    public static function tearDownAfterClass(): void
    {
        @unlink(self::$file);
    }

    private function mart(): Source
    {
        $source = new Source();
        $source->name = 'mart';
        $source->connection()->engine = 'sqlite';
        $source->connection()->path = self::$file;
        $entities = self::get(EntityManagerInterface::class);
        $entities->persist($source);
        $entities->flush();
        self::surveyed($source->id());

        return $entities->find(Source::class, $source->id()) ?? throw new \LogicException();
    }

    private function river(Account $account, bool $shared = true): KeptModel
    {
        $model = ModelFile::read((string) file_get_contents(\dirname(__DIR__, 3).'/demo/river-life.json'));
        $kept = self::get(Editing::class)->begin($account, 'River life', 'what lives there', $this->mart(), $model);
        $kept->shared = $shared;
        self::get(Models::class)->save();

        return $kept;
    }

    private function token(string $page): string
    {
        $crawler = $this->client->request('GET', $page);
        self::assertResponseIsSuccessful();
        $field = $crawler->filter('input[name="_token"][value]')->first();

        return $field->count() > 0 ? (string) $field->attr('value') : (string) $crawler->filter('[data-token]')->attr('data-token');
    }
}
