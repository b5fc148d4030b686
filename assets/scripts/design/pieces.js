// What is chosen on the drawing, and what can be done with it. Every answer is an edit of the outline.
function element(tag, given = {}, ...inside) {
    const made = document.createElement(tag);
    for (const [name, value] of Object.entries(given)) {
        if (name.startsWith('on')) {
            made.addEventListener(name.slice(2), value);
        } else if (value !== false && value !== null && value !== undefined) {
            made.setAttribute(name, value === true ? '' : value);
        }
    }
    made.append(...inside);
    return made;
}

const input = (name, value, more) => element('input', { class: 'form-control', name, value, ...more });
const field = (label, name, value = '', more = {}) => element('label', { class: 'in-form' }, label, input(name, value, { autocomplete: 'off', ...more }));
const plain = (words, onclick) => element('button', { type: 'button', class: 'btn btn-plain small', onclick }, words);

/** Shows what is known of a piece of the drawing. */
export async function about(page, piece) {
    const box = page.root.querySelector('[data-about]');
    box.replaceChildren();
    box.hidden = true;
    if (!piece.tablet && !piece.line) {
        return;
    }
    const answer = await page.ask('about', { text: page.editor.text(), depth: page.depth, tablet: piece.tablet ?? 0, line: piece.line ?? 0 });
    const found = answer?.piece;
    if (!found) {
        return;
    }
    box.hidden = false;
    const close = element('button', { type: 'button', class: 'link close', 'aria-label': 'Close', onclick: () => { box.hidden = true; } }, 'Close');
    box.append(close, element('h2', {}, found.title));
    for (const words of found.words) {
        box.append(element('p', { class: 'faded' }, words));
    }
    if (found.line > 0) {
        box.append(element('p', {}, element('a', { href: '#', 'data-go': found.line }, `line ${found.line}`)));
    }
    const row = (found.rows ?? []).find((one) => one.key === piece.field);
    if (row) {
        box.append(element('p', {}, element('b', {}, row.label), ` ${row.words}`));
    }
    if (!page.mayChange) {
        return;
    }
    if (found.thing) {
        ofThing(page, box, found);
    } else if (found.sentence) {
        ofSentence(page, box, found);
    }
    for (const choice of found.choices ?? []) {
        box.append(element('p', { class: 'choice' }, plain(choice.words, () => page.edit(choice.edits))));
    }
}

function ofThing(page, box, found) {
    const rename = element('form', { class: 'side', onsubmit: (event) => {
        event.preventDefault();
        page.edit([{ what: 'rename thing', of: found.thing, name: new FormData(rename).get('name') }]);
    } }, field('Name', 'name', found.thing), element('button', { class: 'btn btn-plain small' }, 'Rename'));
    const add = element('form', { class: 'side', onsubmit: async (event) => {
        event.preventDefault();
        if (await page.edit([{ what: 'add attribute', of: found.thing, said: new FormData(add).get('said') }])) {
            add.reset();
        }
    } }, field('Known of it', 'said', '', { placeholder: 'name, text up to 80, required' }), element('button', { class: 'btn btn-plain small' }, 'Add'));
    box.append(rename, add, element('p', { class: 'side' },
        element('button', { type: 'button', class: 'btn btn-plain small', onclick: () => form(page, 'sentence', found.thing) }, 'Connect it'),
        element('button', { type: 'button', class: 'btn btn-plain small', onclick: () => form(page, 'view', found.thing, found.shows) }, 'Make a view of it'),
        plain('Take it away', () => page.edit([{ what: 'remove thing', of: found.thing }]))));
}

function ofSentence(page, box, found) {
    const change = element('form', { onsubmit: (event) => {
        event.preventDefault();
        page.edit([{ what: 'set sentence', name: String(found.line), said: new FormData(change).get('said') }]);
    } }, element('label', { class: 'in-form' }, 'Sentence', element('textarea', { class: 'form-control', name: 'said', rows: 3 }, found.sentence)),
    element('p', { class: 'side' }, element('button', { class: 'btn btn-plain small' }, 'Change it'),
        plain('Take it away', () => page.edit([{ what: 'remove sentence', name: String(found.line) }]))));
    box.append(change);
}

/** Asks for a new thing or a new sentence. */
export function form(page, what, from = '', shows = [], other = '') {
    const dialog = document.getElementById('design-form');
    const place = element('form', { method: 'dialog' });
    dialog.replaceChildren(place);
    const { names } = page.sight;
    const cancel = element('button', { type: 'button', class: 'btn btn-plain', onclick: () => dialog.close() }, 'Not now');
    let done;
    if (what === 'thing') {
        place.replaceChildren(element('h2', {}, 'New thing'), field('Name, of one of them', 'name', '', { required: true }), field('One row per', 'grain'));
        done = (given) => [{ what: 'add thing', name: given.get('name'), said: given.get('grain') }];
    } else if (what === 'view') {
        const tick = (one) => element('label', { class: 'tick' },
            element('input', { type: 'checkbox', class: 'form-check-input', name: 'shows', value: one }), ` ${one}`);
        place.replaceChildren(element('h2', {}, `New view of ${from}`), field('Name', 'name', `${from} list`, { required: true }),
            element('fieldset', { class: 'view-fields' }, element('legend', {}, 'It shows'), ...shows.map(tick)));
        done = (given) => [{ what: 'add view', name: given.get('name'), of: from, said: given.getAll('shows').join('\n') }];
    } else {
        const choose = (label, name, value) => element('label', { class: 'in-form' }, label, element('select', { class: 'form-select', name },
            ...names.map((one) => element('option', { selected: one === value }, one))));
        const counts = ['exactly one', 'at most one', 'one or more', 'any number of'];
        const many = (label, name, value) => element('label', { class: 'in-form' }, label, input(name, value, { list: 'design-counts', required: true }));
        place.replaceChildren(
            element('h2', {}, 'New sentence'),
            element('div', { class: 'sentence-form' },
                choose('One', 'from', from || names[0]), field('does what', 'verb', '', { required: true, placeholder: 'takes' }),
                many('how many', 'count', 'any number of'), choose('of which', 'to', other || (names.find((one) => one !== from) ?? names[0]))),
            element('p', { class: 'faded' }, 'and the other way round:'),
            element('div', { class: 'sentence-form' },
                field('it does what', 'back', '', { placeholder: 'is taken by' }), many('how many', 'countBack', 'exactly one')),
            field('What the second is to the first, where that is more than its name', 'role', '', { placeholder: 'owner' }),
            element('datalist', { id: 'design-counts' }, ...counts.map((one) => element('option', { value: one }))),
        );
        done = (given) => {
            const unlikeNoun = /[^\p{L}\p{M}\p{N} _-]| (?:as|to|through|at|or) |^(?:an?|the|each|every|other) /iu;
            const noun = (name) => (unlikeNoun.test(name) ? `"${name.replace(/"/g, '""')}"` : name);
            const article = (name) => (/^[aeiou]/i.test(name) ? 'an' : 'a');
            const role = given.get('role') ? ` as ${given.get('role')}` : '';
            const [one, other] = [given.get('from'), given.get('to')];
            const back = given.get('back') || 'is referred to by';
            const first = article(one) === 'an' ? 'An' : 'A';
            return [{ what: 'add sentence', said: `${first} ${noun(one)} ${given.get('verb')} ${given.get('count')} ${noun(other)}${role}; `
                + `${article(other)} ${noun(other)} ${back} ${given.get('countBack')} ${noun(one)}.` }];
        };
    }
    const failed = element('p', { class: 'rubric', hidden: true });
    place.append(failed, element('p', { class: 'side' }, element('button', { class: 'btn btn-primary' }, 'Write it down'), cancel));
    place.onsubmit = async (event) => {
        event.preventDefault();
        if (await page.edit(done(new FormData(place)))) {
            dialog.close();
        } else {
            failed.hidden = false;
            failed.textContent = page.root.querySelector('[data-saved]').textContent;
        }
    };
    dialog.showModal();
    place.querySelector('input, select').focus();
}
