<?php

declare(strict_types=1);

// The few descriptions with which the demo begins, so that screens show described and undescribed entries side by side.

return [
    'entries' => [
        'station' => [
            'businessName' => 'Station',
            'grain' => 'place where the trust measures the river',
            'meaning' => "A fixed place on a reach with at least one instrument, or a plan for one.\n\nA station that moves by more than **50 m** gets a "
                .'new number; the old one is closed.',
            'standing' => 'agreed',
            'fields' => [
                'id' => ['Station number', 'Numbered by the database. Carries no meaning outside it.'],
                'code' => ['Station code', 'Three letters of the water and a number, painted on the station box.'],
                'reach_id' => ['Reach', 'The stretch of river the station stands on.'],
                'name' => ['Name', 'What the volunteers call it.'],
                'status' => ['Status', 'Whether the station is *planned*, *open*, *paused* for the winter, or *closed* for good.'],
                'opened_on' => ['Opened on', 'The day of its first valid reading. Empty while it is planned.'],
            ],
        ],
        'reading' => [
            'businessName' => 'Reading',
            'grain' => 'parameter measured at a station at one instant',
            'meaning' => 'What an instrument reported, after the unit has been brought to that of the parameter. Corrected values replace the first ones; '
                .'the flag says how far a value can be trusted.',
            'standing' => 'in review',
            'fields' => [
                'id' => ['Reading number', 'Numbered by the database. Carries no meaning outside it.'],
                'station_id' => ['Station', 'Where the instrument hung when it measured.'],
                'parameter_code' => ['Parameter', 'What was measured.'],
                'taken_at' => ['Taken at', "The instant of measurement by the instrument's clock, in UTC."],
                'value' => ['Value', 'What was measured, in the unit of the parameter. At most 9999.99; a greater one is cut there.'],
                'flag' => ['Quality flag', 'How far the value can be trusted: G good, S suspect, B bad, M missing.'],
            ],
        ],
        'parameter' => [
            'businessName' => 'Parameter',
            'grain' => 'quantity that can be measured',
            'meaning' => 'A property of the water, with the unit in which all its values are kept.',
            'standing' => 'agreed',
            'fields' => [
                'code' => ['Parameter code', 'A short name in capitals, the same in every system of the trust.'],
                'unit_id' => ['Unit', 'The unit in which values of this parameter are kept.'],
                'name' => ['Name', 'What it is called in reports.'],
            ],
        ],
        'reach' => [
            'businessName' => 'Reach',
            'grain' => 'stretch of river between two named points',
            'meaning' => 'Rivers are cut into reaches so that a place on them can be named. Water leaves a reach at one end only.',
        ],
        'barrier_survey' => ['grain' => 'barrier and day', 'grainFields' => 'barrier_id, surveyed_on'],
        'visit_member' => ['grain' => 'person who was on a visit', 'grainFields' => 'visit_id, person_id'],
        'visit' => ['businessName' => 'Visit', 'grain' => 'time a team was at a station'],
    ],
    'areas' => [
        'Laboratory' => ['sample', 'lab', 'method', 'lab_result'],
        'Measuring' => ['station', 'deployment', 'instrument', 'instrument_model', 'calibration', 'parameter', 'unit', 'reading', 'quality_flag'],
        'Wildlife' => ['species', 'sighting'],
    ],
    // Name → what it is for, its codes with their labels, and the fields that use it. Paused is left out, to be found.
    'codeLists' => [
        'quality flag' => [
            'How far a value can be trusted. Set by the station first, and by a person when the month is closed.',
            ['G' => 'good', 'S' => 'suspect', 'B' => 'bad', 'M' => 'missing'], ['reading.flag'],
        ],
        'station status' => [
            'What becomes of a station over the years.', ['planned' => 'not built yet', 'open' => 'it measures', 'closed' => ''], ['station.status'],
        ],
    ],
    // Term, area, definition, other words, broader terms.
    'terms' => [
        ['station', '', 'A fixed place on a reach where the trust measures the river.', 'gauging place', ''],
        ['reach', '', 'A stretch of river between two named points. Water leaves it at one end only.', '', ''],
        ['catchment', '', 'The land from which water runs to one point.', '', ''],
        ['parameter', '', 'A property of the water that can be measured, with the unit in which its values are kept.', 'determinand', ''],
        ['reading', '', 'What an instrument reported at one instant.', 'measured value', ''],
        ['quality flag', '', 'One letter that says how far a value can be trusted.', '', 'reading'],
        ['barrier', '', 'Anything across a river that fish cannot pass at all times: a weir, a culvert, a dam.', '', ''],
        ['landowner', '', 'Who has to be asked before anybody enters the land.', '', ''],
        ['season', 'Measuring', 'The hydrological half-year: winter from November, summer from May.', '', ''],
        ['season', 'Wildlife', 'The weeks in which a species is counted; they differ from species to species.', '', ''],
    ],
    'profiled' => ['station', 'sample', 'lab', 'method', 'lab_result', 'quality_flag', 'species'],
    'joins' => [
        'station_reach' => ['stands on', 'carries'],
        'reading_station' => ['is recorded at', 'records'],
        'reading_parameter' => ['measures', 'is measured by'],
        'parameter_unit' => ['is given in', 'is used for'],
        'reach_flows_into' => ['flows into', 'takes in'],
        'reach_catchment' => ['lies in', 'gathers'],
        'visit_station' => ['goes to', 'receives'],
        'deployment_station' => ['hangs at', 'holds'],
        'lab_result_sample' => ['analyses', 'yields'],
        'sample_visit' => ['is taken on', 'brings back'],
    ],
    // What is said of the fields of mart: which are filled from fieldwork, and one that is not to be used any more.
    'mart' => [
        'station' => [
            'station_code' => ['origin' => 'fieldwork: station.code'],
            'station_name' => ['origin' => 'fieldwork: station.name'],
            'opened' => ['origin' => 'fieldwork: station.opened_on'],
        ],
        'reading_day' => [
            'mean' => ['origin' => 'fieldwork: reading.value'],
            'least' => ['origin' => 'fieldwork: reading.value'],
            'greatest' => ['origin' => 'fieldwork: reading.value'],
        ],
        'day' => [
            'month' => ['allowed' => 'code list months'],
            'season' => [
                'meaning' => 'One of four words. The trust counts its seasons anew since 2025, and this was never brought up to date.',
                'retired' => 'retired', 'replacedBy' => 'day.month', 'retiresOn' => '2027-03-31',
            ],
        ],
        'reading_month' => ['readings' => ['meaning' => 'How many readings the month has, over all days.']],
    ],
];
