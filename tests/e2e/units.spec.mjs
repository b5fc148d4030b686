// The scripts by themselves, in a browser and without the application: what they compute, keep and send.
import { build } from 'esbuild';
import { expect, test } from '@playwright/test';

const WORLD = `
export * as ask from './ask.js';
export * as keys from './keys.js';
export * as snap from './board/snap.js';
export { Edits } from './board/edits.js';
export { Camera } from './board/camera.js';
export { form } from './design/pieces.js';
export { choice, connection } from './source.js';
export { drift } from './following.js';
export { options } from './model/options.js';
export { asking } from './model/asking.js';
export { trial } from './model/trial.js';
export { choosing } from './board/choosing.js';
export { deeds } from './board/deeds.js';
`;
let script = '';

test.beforeAll(async () => {
    const made = await build({ stdin: { contents: WORLD, resolveDir: 'assets/scripts' }, bundle: true, write: false, format: 'iife', globalName: 'fasti' });
    script = made.outputFiles[0].text;
});

/** An empty page of a place that keeps things, in which the scripts are; what it asks of a server is answered here. */
async function open(page, body = '', answers = {}) {
    await page.route('http://units.example/**', (route) => {
        const { pathname } = new URL(route.request().url());
        const answer = answers[pathname];
        return answer ? answer(route) : route.fulfill({ contentType: 'text/html', body: `<!doctype html><meta name="texts-token" content="t0ken">${body}` });
    });
    await page.goto('http://units.example/');
    await page.addScriptTag({ content: script });
}

test('what is dragged comes to lie on the grid, or in line with what is near', async ({ page }) => {
    await open(page);
    const snapped = (box, ...others) => page.evaluate(([one, rest]) => window.fasti.snap.snapped(one, rest), [box, others]);
    expect(await snapped({ x: 103, y: 208, width: 50, height: 30 })).toEqual({ dx: -3, dy: 2, guides: [] });
    expect(await snapped({ x: 103, y: 500, width: 50, height: 30 }, [110, 0, 80, 40])).toEqual({
        dx: 7, dy: 0, guides: [{ axis: 0, at: 110, from: 0, to: 530 }],
    });
    expect(await snapped({ x: 102, y: 500, width: 50, height: 30 }, [110, 0, 80, 40])).toEqual({ dx: -2, dy: 0, guides: [] });
    // Its end and its middle are brought in line too, and the nearest of all wins.
    expect((await snapped({ x: 137, y: 500, width: 50, height: 30 }, [110, 0, 80, 40])).dx).toBe(3);
    expect((await snapped({ x: 127, y: 500, width: 50, height: 30 }, [110, 0, 80, 40])).dx).toBe(-2);
    expect((await snapped({ x: 0, y: 6, width: 50, height: 30 }, [400, 0, 80, 40], [400, 4, 80, 99])).dy).toBe(-1);
});

test('pieces are brought in line and apart, on the grid', async ({ page }) => {
    await open(page);
    const boxes = { a: [0, 0, 100, 40], b: [33, 100, 50, 60], c: [300, 222, 20, 20] };
    const aligned = (how) => page.evaluate(([given, way]) => window.fasti.snap.aligned(given, way), [boxes, how]);
    expect(await aligned('left')).toEqual({ a: [0, 0], b: [0, 100], c: [0, 220] });
    expect(await aligned('right')).toEqual({ a: [220, 0], b: [270, 100], c: [300, 220] });
    expect(await aligned('top')).toEqual({ a: [0, 0], b: [30, 0], c: [300, 0] });
    expect(await aligned('bottom')).toEqual({ a: [0, 200], b: [30, 180], c: [300, 220] });
    expect(await aligned('centre')).toEqual({ a: [90, 0], b: [110, 100], c: [130, 220] });
    expect(await aligned('middle')).toEqual({ a: [0, 110], b: [30, 100], c: [300, 120] });
    expect(await aligned('across')).toEqual({ a: [0, 0], b: [180, 100], c: [300, 220] });
    expect(await aligned('down')).toEqual({ a: [0, 0], b: [30, 100], c: [300, 220] });
});

test('what was done is undone and done again, but not what somebody else has done since', async ({ page }) => {
    await open(page);
    const found = await page.evaluate(() => {
        const make = () => new window.fasti.Edits({ id: 7, url: () => '/save', sitting: 's', told: () => {}, answered: () => {} });
        const edits = make();
        edits.did({ t1: [{ x: 0, y: 0 }, { y: 0, x: 10 }], t2: [null, { x: 5 }] });
        edits.did({ t3: [{ x: 1 }, null] });
        const first = edits.turn({ t1: { x: 10, y: 0 }, t2: { x: 5 } }, true);
        const second = edits.turn({ t1: { x: 10, y: 0 }, t2: { x: 6 } }, true);
        const none = edits.turn({}, true);
        const again = edits.turn({ t1: { x: 0, y: 0 }, t2: { x: 6 } }, false);
        // A page that is loaded again knows it still.
        const loaded = make();
        edits.did({ t9: [null, { x: 1 }] });
        return { first, second, none, again, kept: [loaded.steps.length, loaded.undone.length], left: edits.undone.length };
    });
    expect(found.first).toEqual({ changes: { t3: { x: 1 } }, others: 0 });
    expect(found.second).toEqual({ changes: { t1: { x: 0, y: 0 } }, others: 1 });
    expect(found.none).toBeNull();
    expect(found.again).toEqual({ changes: { t1: { y: 0, x: 10 } }, others: 1 });
    expect(found.kept).toEqual([1, 1]);
    expect(found.left).toBe(0);
});

test('what is to be written is kept until the server has it, and refused changes are told', async ({ page }) => {
    const asked = [];
    const answers = [
        (route) => route.fulfill({ status: 422, json: { error: 'That is no place.' } }),
        (route) => route.fulfill({ json: { move: 12 } }),
    ];
    await open(page, '', { '/save': (route) => { asked.push(route.request().postDataJSON()); return answers.shift()(route); } });
    const found = await page.evaluate(async () => {
        const told = [];
        const answered = [];
        const edits = new window.fasti.Edits({
            id: 7, url: () => '/save', sitting: 's', told: (...words) => told.push(words), answered: (one) => answered.push(one),
        });
        const sent = edits.send({ t1: { x: 1 } });
        const kept = localStorage.getItem('fasti:diagram:7:waiting');
        await sent;
        await edits.send({ t2: { x: 2 } }, { ways: [1], draw: true });
        return { told, answered, kept, left: localStorage.getItem('fasti:diagram:7:waiting'), since: edits.since };
    });
    expect(found.told).toEqual([['That is no place.', 'bad']]);
    expect(found.answered).toEqual([{ refused: ['t1'] }, { move: 12 }]);
    expect(found.kept).toContain('t1');
    expect(found.left).toBeNull();
    expect(found.since).toBe(12);
    expect(asked).toEqual([
        { changes: { t1: { x: 1 } }, ways: null, draw: false, since: 0, sitting: 's' },
        { changes: { t2: { x: 2 } }, ways: [1], draw: true, since: 0, sitting: 's' },
    ]);
});

test('a drawing is fitted, moved and sized round a point', async ({ page }) => {
    await open(page, '<div id="frame" style="width: 400px; height: 300px"><svg viewBox="-100 -50 800 300" width="800" height="300"></svg></div>');
    const found = await page.evaluate(() => {
        const frame = document.getElementById('frame');
        const camera = new window.fasti.Camera(frame);
        camera.take(frame.querySelector('svg'));
        const box = frame.getBoundingClientRect();
        const fitted = { ...camera.seen(), scale: camera.scale };
        const before = camera.at(box.left + 100, box.top + 100);
        camera.zoom(2, 100, 100);
        const after = camera.at(box.left + 100, box.top + 100);
        const { scale } = camera;
        camera.zoom(1000);
        const most = camera.scale;
        camera.zoom(0.000001);
        const least = camera.scale;
        camera.fit({ x: 0, y: 0, width: 10, height: 10 });
        const small = camera.scale;
        camera.pan(30, -20);
        return { fitted, before, after, scale, most, least, small, style: frame.querySelector('svg').style.transform };
    });
    expect(found.fitted).toEqual({ x: -100, y: -200, width: 800, height: 600, scale: 0.5 });
    expect(found.after).toEqual(found.before);
    expect([found.scale, found.most, found.least, found.small]).toEqual([1, 4, 0.02, 1.25]);
    expect(found.style).toMatch(/^translate\(.*\) scale\(1\.25\)$/);
});

test('a new sentence is written as an outline says it, whatever its things are called', async ({ page }) => {
    await open(page, '<main><p data-saved></p></main><dialog id="design-form"></dialog>');
    const said = (names, given) => page.evaluate(async ([things, fields]) => {
        const edits = [];
        const view = { sight: { names: things }, root: document.querySelector('main'), edit: (one) => { edits.push(...one); return Promise.resolve(true); } };
        window.fasti.form(view, 'sentence', things[0], [], things[1]);
        const form = document.querySelector('#design-form form');
        for (const [name, value] of Object.entries(fields)) {
            form.elements[name].value = value;
        }
        form.dispatchEvent(new Event('submit', { cancelable: true }));
        await Promise.resolve();
        return edits[0];
    }, [names, given]);
    expect(await said(['school', 'loan'], { verb: 'takes', back: 'is taken by' })).toEqual({
        what: 'add sentence', said: 'A school takes any number of loan; a loan is taken by exactly one school.',
    });
    expect((await said(['instrument', 'each "odd" name'], { verb: 'has', count: 'at most one', countBack: 'one or more', role: 'owner' })).said)
        .toBe('An instrument has at most one "each ""odd"" name" as owner; an "each ""odd"" name" is referred to by one or more instrument.');
});

test('keys are commands where nobody writes, and a list is gone through by them', async ({ page }) => {
    const rows = ['a', 'b', 'c'].map((name) => `<li data-row tabindex="0">${name}</li>`).join('');
    await open(page, `<input id="in"><ul>${rows}</ul><dialog id="d">x</dialog>`);
    const found = await page.evaluate(() => {
        const { plainKey, walk } = window.fasti.keys;
        const event = (target, more = {}) => ({ target, ctrlKey: false, metaKey: false, altKey: false, ...more });
        const row = document.querySelector('[data-row]');
        const plain = [plainKey(event(row)), plainKey(event(document.getElementById('in'))), plainKey(event(row, { ctrlKey: true })),
            plainKey(event(row, { metaKey: true })), plainKey(event(row, { altKey: true }))];
        document.getElementById('d').showModal();
        plain.push(plainKey(event(row)));
        document.getElementById('d').close();
        const at = [];
        for (const key of ['j', 'j', 'k', 'j', 'j', 'j', 'k']) {
            at.push(walk({ key }, document.body).textContent);
        }
        return { plain, at, marked: [...document.querySelectorAll('.at')].map((one) => one.textContent), focus: document.activeElement.textContent };
    });
    expect(found.plain).toEqual([true, false, false, false, false, false]);
    expect(found.at).toEqual(['a', 'b', 'a', 'b', 'c', 'c', 'b']);
    expect(found.marked).toEqual(['b']);
    expect(found.focus).toBe('b');
});

test('of many wishes in a row the last one is carried out', async ({ page }) => {
    await open(page);
    const ran = await page.evaluate(() => new Promise((resolve) => {
        const all = [];
        const later = window.fasti.ask.later(20, (...given) => { all.push(given); resolve(all); });
        later('a');
        later('b', 1);
    }));
    expect(ran).toEqual([['b', 1]]);
    expect(await page.evaluate(() => window.fasti.ask.token())).toBe('t0ken');
});

/** A component as Alpine would have it: with its root and what is named in it. */
const component = (page, name, more) => page.evaluate(([which, deed]) => {
    const root = document.querySelector('[data-component]');
    const refs = Object.fromEntries([...root.querySelectorAll('[data-ref]')].map((one) => [one.dataset.ref, one]));
    const made = Object.assign(window.fasti[which](), { $root: root, $refs: refs });
    return new Function('made', 'root', deed)(made, root);
}, [name, more]);

test('an answer that comes when another question stands there is not shown as its answer', async ({ page }) => {
    const complaints = [];
    page.on('pageerror', (error) => complaints.push(error.message));
    let answer;
    await open(page, `<main data-answer="/answer" data-token="t"><div id="answer"></div><div id="reconciled"></div>
        <div id="asked"><i data-answerable></i></div></main>`, { '/answer': (route) => { answer = () => route.fulfill({ body: '<b>3,844</b>' }); } });
    await page.evaluate(() => {
        const root = document.querySelector('main');
        const refs = Object.fromEntries(['answer', 'reconciled', 'asked'].map((id) => [id, document.getElementById(id)]));
        window.trial = { ...window.fasti.asking, $root: root, $refs: refs, parameters: () => new URLSearchParams() };
        window.trial.ask();
    });
    await expect(page.locator('.asking b')).not.toHaveText('0 s');
    await page.evaluate(() => document.getElementById('answer').replaceChildren('Another question.'));
    // The clock of what is asked goes on; it has nothing to write on any more.
    await page.evaluate(() => new Promise((resolve) => { setTimeout(resolve, 1200); }));
    await answer();
    await page.waitForFunction(() => window.trial.asking === null);
    await expect(page.locator('#answer')).toHaveText('Another question.');
    expect(complaints).toEqual([]);

    await page.evaluate(() => { window.trial.ask(); });
    await expect(page.locator('.asking')).toBeVisible();
    await answer();
    await expect(page.locator('#answer')).toHaveText('3,844');
});

test('of two choices in a row the plan of the second stands, whichever arrives first, and it is what is asked', async ({ page }) => {
    const plan = (measures) => `<i data-answerable></i><b data-written='${JSON.stringify({ m: measures })}'></b><p>${measures.join(' and ')}</p>`;
    let first;
    const asked = [];
    await open(page, `<main data-answer="/answer" data-plan="/plan" data-here="/" data-token="t" data-choices="{}"><div id="answer"></div>
        <div id="reconciled"></div><div id="sql"></div><div id="asked">${plan(['a'])}</div></main>`, {
        '/plan': (route) => {
            const measures = new URL(route.request().url()).searchParams.getAll('m[]');
            const answer = () => route.fulfill({ body: plan(measures) });
            if (measures.length === 2) {
                first = answer;
                return null;
            }
            return answer();
        },
        '/answer': (route) => { asked.push(route.request().postDataBuffer().toString()); return route.fulfill({ body: 'Answered.' }); },
    });
    await page.evaluate(() => {
        const refs = Object.fromEntries(['answer', 'reconciled', 'asked', 'sql'].map((id) => [id, document.getElementById(id)]));
        window.trial = Object.assign(window.fasti.trial(), { $root: document.querySelector('main'), $refs: refs });
        window.trial.read();
        window.trial.asked.m.push('b');
        window.trial.changed();
    });
    await expect.poll(() => first !== undefined).toBe(true);
    await page.evaluate(() => { window.trial.asked.m.push('c'); window.trial.changed(); window.trial.ask(); });
    await expect(page.locator('#answer')).toHaveText('Answered.');
    await first();
    await page.evaluate(() => new Promise((resolve) => { setTimeout(resolve, 200); }));
    await expect(page.locator('#asked p')).toHaveText('a and b and c');
    await expect(page.locator('#answer')).toHaveText('Answered.');
    expect(await page.evaluate(() => window.trial.asked.m)).toEqual(['a', 'b', 'c']);
    expect(asked).toHaveLength(1);
    expect(new URLSearchParams(asked[0]).getAll('m[]')).toEqual(['a', 'b', 'c']);
});

test('kinds of pieces are made and hold by what the page says of them', async ({ page }) => {
    await open(page);
    const made = await page.evaluate(() => {
        const kinds = {
            line: { holds: false, room: [300, 40], made: {} }, sheet: { holds: false, room: [240, 110], made: { width: 240 } },
            fence: { holds: true, room: [1, 1], made: { width: 420, height: 300 } },
        };
        const written = [];
        const board = {
            ...window.fasti.deeds, ...window.fasti.choosing, kinds, chosen: new Set(), sizes: {},
            pieces: { t1: {}, n1: { kind: 'fence' }, n2: { kind: 'line' } },
            scene: { pieces: { t1: [40, 40, 100, 60], n1: [0, 0, 400, 300], n2: [900, 900, 10, 10] } },
            camera: { seen: () => ({ x: 0, y: 0, width: 1000, height: 900 }) }, tablets: () => [], fresh: () => 'n9',
            write: (key, piece) => written.push(piece),
        };
        ['line', 'sheet', 'fence'].forEach((kind) => board.deed(`put ${kind}`));
        board.chosen.add('t1');
        board.deed('put fence');
        return { written, held: board.heldBy('n1'), none: board.heldBy('n2'), holds: ['n1', 'n2', 't1'].map((key) => board.holds(key)) };
    });
    expect(made.written).toEqual([
        { kind: 'line', text: '', x: 380, y: 330 }, { kind: 'sheet', text: '', x: 380, y: 330, width: 240 },
        { kind: 'fence', text: '', x: 380, y: 300, width: 420, height: 300 }, { kind: 'fence', text: '', x: 10, y: -10, width: 160, height: 140 },
    ]);
    expect(made.held).toEqual(['t1']);
    expect(made.none).toEqual([]);
    expect(made.holds).toEqual([true, false, false]);
});

test('what a choice of patterns would read is counted as it is made', async ({ page }) => {
    const item = (schema, name, kind) => `<li data-schema="${schema}" data-name="${name}" data-place="${schema}.${name}" data-kind="${kind}"></li>`;
    await open(page, `<form data-component><input type="checkbox" data-ref="all"><input type="checkbox" data-schema value="a" checked>
        <input type="checkbox" data-schema value="b"><input data-ref="include"><input data-ref="exclude"><ul data-ref="objects">
        ${item('a', 'station', 'table')}${item('a', 'stations_v', 'view')}${item('a', 'old', 'table')}${item('b', 'station', 'table')}
        ${item('a', 'm', 'materialized view')}${item('a', 'docs', 'collection')}</ul></form>`);
    const tally = (include, exclude, all = false) => component(page, 'choice', `
        made.$refs.include.value = ${JSON.stringify(include)}; made.$refs.exclude.value = ${JSON.stringify(exclude)}; made.$refs.all.checked = ${all};
        made.count(); return made.tally;`);
    expect(await tally('', '')).toBe('2 tables, 2 views, 1 collection will be read.');
    expect(await tally('', '', true)).toBe('3 tables, 2 views, 1 collection will be read.');
    expect(await tally('STAT*', '')).toBe('1 table, 1 view will be read.');
    expect(await tally('', 'stat*, "old"')).toBe('1 table, 1 view, 1 collection will be read.');
    expect(await tally('b.station', '', true)).toBe('1 table will be read.');
    expect(await tally('st?tion', '')).toBe('1 table will be read.');
    expect(await tally('nothing', '')).toBe('0 tables will be read.');
});

test('a pasted address fills in the form of its engine, and the secret leaves the address', async ({ page }) => {
    const engine = (value, port, schemes) => `<input type="radio" name="s[engine]" value="${value}" data-port="${port}" data-schemes="${schemes}"
        data-fields="host port database account secret url">`;
    await open(page, `<form data-component>${engine('mariadb', '3306', 'mariadb mysql')}${engine('postgresql', '5432', 'postgresql postgres')}
        ${engine('sqlite', '', 'sqlite')}
        ${['url', 'host', 'port', 'database', 'account', 'secret'].map((name) => `<input name="s[${name}]">`).join('')}</form>`);
    const pasted = (url) => component(page, 'connection', `
        root.querySelectorAll('input:not([type=radio])').forEach((one) => { one.value = ''; });
        root.querySelector('[value=mariadb]').checked = true; made.init(); made.input('url').value = ${JSON.stringify(url)}; made.pasted();
        return [made.engine().value, ...['host', 'port', 'database', 'account', 'secret', 'url'].map((name) => made.input(name).value)];`);
    expect(await pasted('postgres://ida:s%40c:ret@db.example:6000/rivers?x=1')).toEqual(['postgresql', 'db.example', '6000', 'rivers', 'ida', 's@c:ret', '']);
    expect(await pasted('mysql://ida@[::1]/rivers')).toEqual(['mariadb', '::1', '3306', 'rivers', 'ida', '', 'mysql://ida@[::1]/rivers']);
    expect(await pasted('sqlite:///x')).toEqual(['mariadb', '', '3306', '', '', '', 'sqlite:///x']);
    expect(await pasted('nonsense')).toEqual(['mariadb', '', '3306', '', '', '', 'nonsense']);
});

test('the button says how much of a drift is followed', async ({ page }) => {
    await open(page, '<form data-component><select name="item[1]"><option>yes<option>no</select><select name="item[2]"><option>yes<option>no</select></form>');
    const label = (...values) => component(page, 'drift', `
        const choices = root.querySelectorAll('select'); ${JSON.stringify(values)}.forEach((value, i) => { choices[i].value = value; });
        made.count(); return made.label;`);
    expect(await label('yes', 'yes')).toBe('Follow all of it');
    expect(await label('yes', 'no')).toBe('Follow 1 of 2');
    expect(await label('no', 'no')).toBe('Leave all for later');
    expect(await component(page, 'drift', 'made.later(); return made.label;')).toBe('Leave all for later');
});

test('what may follow in a condition is offered by what is typed', async ({ page }) => {
    await open(page);
    const offered = (part, typed) => page.evaluate(([name, raw]) => {
        const trial = {
            ...window.fasti.options,
            asked: { m: ['number_of visits'], b: ['kind'], w: [], o: [] },
            beside: [{ value: 'share of number of visits', words: 'of all there is' }],
            choices: {
                measures: [
                    { name: 'Number of visits', of: 'visit', words: '', can: { station: 'No join leads there.' } },
                    { name: 'cost', of: 'visit', words: 'x', also: ['price'], can: {} },
                ],
                attributes: [['kind', 'visit'], ['kind of station', 'station'], ['year', 'day']].map(([called, of]) => ({ name: called, of, words: '' })),
                tests: [['is', '', true], ['is in', 'a year', true], ['is none', '', false]].map(([words, help, takes]) => ({ words, help, takes })),
            },
        };
        return trial[name](raw.toLowerCase().replaceAll(/[\s_]+/g, ' ').trim(), raw);
    }, [part, typed]);
    const names = async (part, typed) => (await offered(part, typed)).map((one) => one.name);

    expect(await names('measures', '')).toEqual(['cost', 'share of number of visits']);
    expect(await names('measures', 'price')).toEqual(['cost']);
    expect(await offered('measures', 'cost 3 weeks before')).toEqual([{ value: 'cost 3 weeks before', name: 'cost 3 weeks before', words: 'take it' }]);
    // What cannot be split by comes last, with why.
    expect(await offered('attributes', '')).toEqual([
        { value: 'year', name: 'year', words: 'of day' },
        { value: 'kind of station', name: 'kind of station', words: 'of station', not: 'No join leads there.' },
    ]);
    expect(await names('conditions', 'ki')).toEqual(['kind', 'kind of station']);
    expect(await names('conditions', 'kind')).toEqual(['is', 'is in', 'is none']);
    expect(await offered('conditions', 'kind of station is i')).toEqual([
        { value: 'kind of station is i', name: 'kind of station is i', words: 'take it' },
        { value: 'kind of station is in ', name: 'is in', words: 'a year', on: true },
    ]);
    expect(await names('conditions', 'kind is fish')).toEqual(['kind is fish']);
    expect(await offered('conditions', 'kind is none')).toEqual([{ value: 'kind is none', name: 'kind is none', words: 'take it' }]);
    expect(await names('numbers', '7')).toEqual(['the first 7 rows', 'the first 7 and the others', 'all rows']);
    expect((await offered('subtotals', '')).map((one) => one.value)).toEqual(['1', '']);
    expect((await offered('orders', 'kind')).map((one) => one.value)).toEqual(['-kind', 'kind']);
});
