<?php

declare(strict_types=1);

// Three diagrams, each for a purpose, as somebody has arranged them. Tablets by the names of their tables in fieldwork.

return [
    'From a reading to its catchment' => [
        'purpose' => 'How a measured value is reached from the catchment that it is about',
        'detail' => 'keys',
        'tablets' => [
            'catchment' => ['x' => 0, 'y' => 80],
            'reach' => ['x' => 310, 'y' => 60],
            'station' => ['x' => 630, 'y' => 60],
            'reading' => ['x' => 960, 'y' => 90, 'shows' => 'all'],
            'unit' => ['x' => 310, 'y' => 330],
            'parameter' => ['x' => 630, 'y' => 300],
            'quality_flag' => ['x' => 1000, 'y' => 420],
            'deployment' => ['x' => 630, 'y' => 480],
            'instrument' => ['x' => 310, 'y' => 480, 'folded' => true],
        ],
        'notes' => [
            'nplace' => ['kind' => 'heading', 'text' => 'Where', 'x' => 0, 'y' => 0],
            'nvalue' => ['kind' => 'heading', 'text' => 'What was measured', 'x' => 960, 'y' => 0],
            'nflag' => [
                'kind' => 'note', 'x' => 0, 'y' => 300, 'width' => 240,
                'text' => "Only readings whose flag is **G** count in reports.\n\n- a reach *flows into* the next one, so that all readings above a place"
                    ." are found step by step\n- `value` is kept in the unit of its parameter",
            ],
        ],
    ],
    'What a visit leaves behind' => [
        'purpose' => 'Everything that is written down when a team has been at a station, down to what the laboratory finds',
        'detail' => 'keys',
        'tablets' => [
            'team' => ['x' => 0, 'y' => 60],
            'person' => ['x' => 260, 'y' => 60],
            'visit_member' => ['x' => 560, 'y' => 60],
            'visit' => ['x' => 560, 'y' => 280, 'shows' => 'all'],
            'station' => ['x' => 0, 'y' => 300],
            'sample' => ['x' => 1020, 'y' => 100],
            'lab_result' => ['x' => 1020, 'y' => 330],
            'method' => ['x' => 1330, 'y' => 330],
            'lab' => ['x' => 1330, 'y' => 110],
        ],
        'notes' => [
            'nlab' => ['kind' => 'frame', 'text' => 'In the laboratory', 'x' => 980, 'y' => 40, 'width' => 640, 'height' => 470],
            'nwho' => ['kind' => 'heading', 'text' => 'Who was there', 'x' => 0, 'y' => 0],
        ],
    ],
    'Who may enter whose land' => [
        'purpose' => 'Which owner has permitted what, before a team sets out',
        'detail' => 'all',
        'tablets' => [
            'landowner' => ['x' => 0, 'y' => 40],
            'access_permit' => ['x' => 460, 'y' => 40],
            'station' => ['x' => 900, 'y' => 40, 'fields' => ['id', 'code', 'reach_id', 'status']],
            'visit' => ['x' => 900, 'y' => 260, 'shows' => 'keys'],
        ],
        'notes' => [
            'npaper' => [
                'kind' => 'note', 'x' => 460, 'y' => 280, 'width' => 280,
                'text' => 'No key says that `landowner_no` leads to a landowner: the numbers are copied from paper.'
                    .' Look at the permit itself before you climb a fence.',
            ],
        ],
    ],
];
