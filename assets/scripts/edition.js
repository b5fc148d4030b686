// The script of a published edition: works from disk, asks nobody for anything.
import { drawing } from './drawing.js';
import { inText } from './ask.js';

const root = document.body.dataset.root;
document.querySelectorAll('[data-drawing]').forEach((frame) => drawing(frame));

/** How much the tablets of a kept diagram show: each level was drawn when the edition was made. */
document.querySelectorAll('[data-levels] button').forEach((button) => button.addEventListener('click', () => {
    const frame = document.querySelector('[data-drawing]');
    frame.innerHTML = document.querySelector(`template[data-level="${button.dataset.shows}"]`).innerHTML;
    delete frame.dataset.ready;
    drawing(frame);
    document.querySelectorAll('[data-levels] button').forEach((each) => each.setAttribute('aria-pressed', String(each === button)));
}));

document.getElementById('theme').addEventListener('click', () => {
    const html = document.documentElement;
    const dark = html.dataset.theme === 'dark' || (!html.dataset.theme && matchMedia('(prefers-color-scheme: dark)').matches);
    html.dataset.theme = dark ? 'light' : 'dark';
    try { localStorage.setItem('fasti:theme', html.dataset.theme); } catch { /* for this page only */ }
});

document.addEventListener('click', (event) => {
    const open = event.target.closest('[data-open]');
    if (open) {
        const more = open.closest('[data-row]').querySelector('[data-more]');
        more.hidden = !more.hidden;
        open.setAttribute('aria-expanded', String(!more.hidden));
    }
});

// ---- search: the list of everything is loaded when it is first wanted, as a script, since a page on disk may not fetch ----
const input = document.getElementById('find');
const list = document.getElementById('found');
const folded = (text) => text.toLowerCase().replace(/[^\p{L}\p{M}\p{N}]+/gu, '');
let rows = null;
let loading = null;

function load() {
    loading ??= new Promise((resolve) => {
        const script = document.createElement('script');
        script.src = `${root}search.js`;
        script.onload = () => {
            rows = [];
            for (const [name, title, where, path, meaning, fields] of window.fastiSearch) {
                rows.push({ name, title, where, path, text: meaning, hay: folded(name), also: folded(title), said: meaning.toLowerCase(), entry: true });
                for (const [field, business, said, anchor = field] of fields) {
                    rows.push({
                        name: field, title: business, where: name, path: `${path}#${anchor}`, text: said, hay: folded(field), also: folded(business),
                        said: said.toLowerCase(), entry: false,
                    });
                }
            }
            resolve();
        };
        document.head.appendChild(script);
    });
    return loading;
}

function slips(a, b, most) {
    if (Math.abs(a.length - b.length) > most) {
        return most + 1;
    }
    let [before, above] = [[], [...Array(b.length + 1).keys()]];
    for (let i = 1; i <= a.length; i += 1) {
        const row = [i];
        for (let j = 1; j <= b.length; j += 1) {
            row[j] = Math.min(above[j] + 1, row[j - 1] + 1, above[j - 1] + (a[i - 1] === b[j - 1] ? 0 : 1));
            if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) {
                row[j] = Math.min(row[j], before[j - 2] + 1);
            }
        }
        if (Math.min(...row) > most) {
            return most + 1;
        }
        [before, above] = [above, row];
    }
    return above[b.length];
}

function find(query) {
    const words = query.toLowerCase().split(/[^\p{L}\p{M}\p{N}]+/u).filter(Boolean);
    const whole = folded(query);
    const rank = (row) => {
        if (row.hay === whole || row.also === whole) { return 0; }
        if (row.hay.startsWith(whole) || row.also.startsWith(whole)) { return 1; }
        if (words.every((word) => row.hay.includes(word))) { return 2; }
        if (words.every((word) => row.also.includes(word))) { return 3; }
        return words.every((word) => row.said.includes(word)) ? 5 : 9;
    };
    let hits = rows.map((row) => [rank(row), row]).filter(([score]) => score < 9);
    if (hits.length === 0 && whole.length > 3) {
        const most = whole.length < 8 ? 1 : 2;
        hits = rows.map((row) => [5 + slips(whole, row.hay, most), row]).filter(([score]) => score <= 5 + most);
    }
    return hits.sort((a, b) => a[0] - b[0] || a[1].name.length - b[1].name.length).map(([, row]) => row);
}

function show(hits, query) {
    list.replaceChildren();
    const put = (tag, className, text, inside) => inside.appendChild(Object.assign(document.createElement(tag), { className, textContent: text }));
    for (const [title, group] of [['Entries', hits.filter((row) => row.entry)], ['Fields', hits.filter((row) => !row.entry)]]) {
        if (group.length === 0) {
            continue;
        }
        put('h3', '', title, list);
        for (const row of group.slice(0, 12)) {
            const link = put('a', 'hit', '', list);
            link.href = root + row.path;
            link.setAttribute('role', 'option');
            const named = put('span', '', '', link);
            put('span', 'code', row.name, named);
            if (row.title && row.title.toLowerCase() !== row.name.toLowerCase()) {
                named.append(` ${row.title}`);
            }
            put('span', 'faded where', row.where, link);
        }
    }
    if (hits.length === 0) {
        put('p', 'meant', `Nothing is called “${query}”.`, list);
    }
    list.querySelector('.hit')?.setAttribute('aria-selected', 'true');
    list.hidden = false;
    input.setAttribute('aria-expanded', 'true');
}

const leave = () => { list.hidden = true; input.setAttribute('aria-expanded', 'false'); };
async function typed() {
    const query = input.value.trim();
    if (query === '') {
        return leave();
    }
    await load();
    return input.value.trim() === query ? show(find(query), query) : undefined;
}
input.addEventListener('focus', () => { load(); typed(); });
input.addEventListener('input', typed);
input.addEventListener('keydown', (event) => {
    const hits = [...list.querySelectorAll('.hit')];
    const at = hits.findIndex((hit) => hit.getAttribute('aria-selected') === 'true');
    if (event.key === 'Escape') {
        leave();
    } else if (event.key === 'Enter' && hits[at]) {
        location.href = hits[at].href;
        leave();
    } else if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && hits.length > 0) {
        event.preventDefault();
        hits[at]?.removeAttribute('aria-selected');
        hits[(at + (event.key === 'ArrowDown' ? 1 : -1) + hits.length) % hits.length].setAttribute('aria-selected', 'true');
    }
});
document.addEventListener('click', (event) => { if (!event.target.closest('.find')) { leave(); } });
document.addEventListener('keydown', (event) => {
    if (event.key === '/' && !inText(event.target)) {
        event.preventDefault();
        input.focus();
        input.select();
    }
});
