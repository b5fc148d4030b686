<?php

declare(strict_types=1);

namespace Fasti\Diagram;

use Fasti\Core\Diagram\Layout;
use Fasti\Core\Diagram\TitleBlock;
use Symfony\Component\HttpFoundation\HeaderUtils;
use Symfony\Component\HttpFoundation\Request;
use Symfony\Component\HttpFoundation\Response;
use Symfony\Component\Routing\Generator\UrlGeneratorInterface;

/** How drawings are handed over. */
final readonly class Answer
{
    private const WIDEST = 8000;

    public function __construct(private Out $out)
    {
    }

    public function isFetched(Request $request): bool
    {
        return 'fetch' === $request->headers->get('X-Requested-With');
    }

    /** @return int how links in a drawing are written: a file leads back here wherever it is opened */
    public function addresses(string $format): int
    {
        return 'html' === $format ? UrlGeneratorInterface::ABSOLUTE_PATH : UrlGeneratorInterface::ABSOLUTE_URL;
    }

    public function file(Request $request, Layout $layout, TitleBlock $block, string $format): Response
    {
        $paper = strtoupper($request->query->getString('paper'));
        $width = max(0, $request->query->getInt('width'));
        if ($width > self::WIDEST) {
            return self::refused(
                \sprintf('A picture is %s px wide at the most. For more, take the PDF or the SVG: they have no size.', number_format(self::WIDEST)),
                422,
            );
        }
        if ('' !== $paper && !isset(Raster::PAPERS[$paper])) {
            return self::refused('The paper is one of '.implode(', ', array_keys(Raster::PAPERS)).'.', 422);
        }
        try {
            $body = $this->out->file($layout, $block, $format, $paper, $width);
        } catch (\RuntimeException $e) {
            return self::refused($e->getMessage(), 500);
        }
        $file = (trim(preg_replace('/[^\w.-]+/u', '-', $block->name) ?? '', '-') ?: 'diagram').'.'.$format;

        return new Response($body, 200, [
            'Content-Type' => Out::FORMATS[$format],
            'Content-Disposition' => HeaderUtils::makeDisposition(
                'attachment',
                $file,
                preg_replace('/[^\x20-\x7E]|[%\/\\\\]/', '-', $file) ?? 'diagram.'.$format,
            ),
        ]);
    }

    private static function refused(string $words, int $status): Response
    {
        return new Response($words, $status, ['Content-Type' => 'text/plain; charset=UTF-8']);
    }
}
