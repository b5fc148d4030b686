import Alpine from '@alpinejs/csp';
import { HEADERS, html, inText, later, token } from './ask.js';
import { chosen } from './choice.js';
import { board } from './board/board.js';
import { map } from './board/map.js';
import { diagram } from './diagram.js';
import { desk } from './desk.js';
import { Drafts, send } from './drafts.js';
import { findings } from './findings.js';
import { joins } from './joins.js';
import { lineage } from './lineage.js';
import { formula, model } from './model/formula.js';
import { trial } from './model/trial.js';
import { Texts } from './texts.js';

Alpine.data('board', board);
Alpine.data('map', map);
Alpine.data('desk', desk);
Alpine.data('diagram', diagram);
Alpine.data('joins', joins);
Alpine.data('lineage', lineage);
Alpine.data('model', model);
Alpine.data('formula', formula);
Alpine.data('trial', trial);

/** Search from anywhere: results come grouped from the server and are walked with the arrow keys. */
Alpine.data('find', () => ({
    open: false,
    asked: '',
    init() {
        this.ask = later(90, async (query) => {
            const found = await html(`${this.$refs.input.dataset.url}?q=${encodeURIComponent(query)}`);
            if (query === this.asked) {
                this.$refs.list.innerHTML = found;
                this.$refs.list.querySelector('[data-hit]')?.setAttribute('aria-selected', 'true');
                this.shown(true);
            }
        });
        // What was looked for in vain is counted, once a person has stopped typing.
        this.vain = later(2500, (query) => {
            if (query === this.asked && query.length > 2 && this.open && !this.$refs.list.querySelector('[data-hit]')) {
                html(`${this.$refs.input.dataset.url}?q=${encodeURIComponent(query)}&in-the-end=1`);
            }
        });
        window.addEventListener('keydown', (event) => {
            if (event.key === '/' && !inText(event.target) && !event.ctrlKey && !event.metaKey) {
                event.preventDefault();
                this.$refs.input.select();
                this.$refs.input.focus();
            } else if (event.key === '?' && !inText(event.target)) {
                document.getElementById('keys')?.showModal();
            }
        });
        document.addEventListener('click', (event) => {
            if (event.target.closest('[data-keys]')) {
                document.getElementById('keys')?.showModal();
            }
        });
    },
    shown(open) {
        this.open = open;
        this.$refs.input.setAttribute('aria-expanded', String(open));
    },
    typed() {
        this.asked = this.$refs.input.value.trim();
        if (this.asked === '') {
            this.shown(false);
        } else {
            this.ask(this.asked);
            this.vain(this.asked);
        }
    },
    moved(event) {
        const hits = [...this.$refs.list.querySelectorAll('[data-hit]')];
        const at = hits.findIndex((hit) => hit.getAttribute('aria-selected') === 'true');
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const next = hits[(at + (event.key === 'ArrowDown' ? 1 : -1) + hits.length) % hits.length];
            hits[at]?.removeAttribute('aria-selected');
            next?.setAttribute('aria-selected', 'true');
            next?.scrollIntoView({ block: 'nearest' });
        } else if (event.key === 'Enter' && this.open && hits.length > 0) {
            event.preventDefault();
            hits[Math.max(0, at)].click();
        }
    },
    leave() {
        this.shown(false);
    },
}));

Alpine.data('menu', () => ({ shut() { this.$el.closest('details').open = false; } }));

Alpine.data('theme', () => ({
    init() { this.mark(); },
    mark() {
        const chosen = document.documentElement.dataset.theme ?? 'auto';
        this.$root.querySelectorAll('[data-theme-choice]').forEach((button) => button.setAttribute('aria-pressed', String(button.dataset.themeChoice === chosen)));
    },
    choose(event) {
        const choice = event.target.dataset.themeChoice;
        if (choice === 'auto') {
            delete document.documentElement.dataset.theme;
            localStorage.removeItem('fasti:theme');
        } else {
            document.documentElement.dataset.theme = choice;
            localStorage.setItem('fasti:theme', choice);
        }
        this.mark();
    },
}));

/** Long work: asks how far it is, in the words of the server, and loads the page again when it is over. */
Alpine.data('work', () => ({
    words: '',
    silent: false,
    init() {
        this.words = this.$root.querySelector('[role=status]').textContent.trim();
        const ask = async () => {
            try {
                const state = await (await fetch(this.$root.dataset.url, { headers: HEADERS })).json();
                if (state.over) {
                    return location.reload();
                }
                this.words = state.words;
                this.silent = state.silent;
                if (state.total > 0) {
                    this.$refs.bar.max = state.total;
                    this.$refs.bar.value = state.done;
                }
            } catch {
                this.words = 'No connection to Fasti; asking again';
            }
            return setTimeout(ask, 700);
        };
        ask();
    },
}));

document.addEventListener('change', (event) => {
    if (event.target.matches('[data-submits]')) {
        event.target.form.submit();
    }
});

/** What to follow of a source that has changed: the button says how much. */
Alpine.data('drift', () => ({
    label: 'Follow all of it',
    init() { this.count(); this.$root.addEventListener('change', () => this.count()); },
    choices() { return [...this.$root.querySelectorAll('select[name^="item"]')]; },
    count() {
        const all = this.choices();
        const left = all.filter((choice) => choice.value === 'no').length;
        this.label = left === 0 ? 'Follow all of it' : (left === all.length ? 'Leave all for later' : `Follow ${all.length - left} of ${all.length}`);
    },
    later() { this.choices().forEach((choice) => { choice.value = 'no'; }); this.count(); },
}));

/** The form of a connection. What each engine asks for stands at its button: fields, port, schemes of its URLs. */
Alpine.data('connection', () => ({
    busy: false,
    asked: false,
    message: '',
    advice: '',
    tone: '',
    init() { this.kind(); },
    input(name) { return this.$root.querySelector(`[name$="[${name}]"]`); },
    engines() { return [...this.$root.querySelectorAll('[name$="[engine]"]')]; },
    engine() { return this.engines().find((button) => button.checked) ?? this.engines()[0]; },
    /** Shows what the kind of source asks for. */
    kind() {
        const asks = this.engine().dataset;
        const fields = asks.fields.split(' ');
        this.$root.querySelectorAll('[data-field]').forEach((block) => { block.hidden = !block.dataset.field.split(' ').some((field) => fields.includes(field)); });
        const port = this.input('port');
        if (['', ...this.engines().map((button) => button.dataset.port)].includes(port.value)) {
            port.value = asks.port;
        }
        this.input('url').placeholder = `${asks.schemes.split(' ')[0]}://account:secret@host:${port.value}/database`;
        this.input('files[]')?.toggleAttribute('multiple', fields.includes('files'));
        this.asked = false;
    },
    pasted() {
        const m = /^([a-z]+):\/\/(?:(.*)@)?(\[[^\]]+\]|[^:/?@[]*)(?::(\d*))?(?:\/([^?#]*))?/i.exec(this.input('url').value.trim());
        const button = m && this.engines().find((each) => each.dataset.schemes.split(' ').includes(m[1].toLowerCase()));
        if (!button || button.dataset.port === '') {
            return;
        }
        button.checked = true;
        this.kind();
        const plain = (text) => { try { return decodeURIComponent(text); } catch { return text; } };
        const [account, ...secret] = (m[2] ?? '').split(':');
        this.input('host').value = plain(m[3].replace(/[[\]]/g, ''));
        this.input('port').value = m[4] || button.dataset.port;
        this.input('database').value = plain(m[5] ?? '');
        this.input('account').value = plain(account);
        if (secret.length > 0) {
            this.input('secret').value = plain(secret.join(':'));
            this.input('url').value = '';
        }
    },
    async test() {
        this.busy = true;
        this.asked = true;
        [this.message, this.advice, this.tone] = ['Trying …', '', ''];
        const form = new FormData();
        for (const name of ['url', 'host', 'port', 'database', 'account', 'secret']) {
            form.set(name, this.input(name).value);
        }
        form.set('engine', this.engine().value);
        form.set('_token', this.$root.dataset.token);
        form.set('connection', this.$root.dataset.connection);
        try {
            const answer = await (await fetch(this.$root.dataset.url, { method: 'POST', headers: HEADERS, body: form })).json();
            [this.message, this.advice, this.tone] = [answer.message ?? answer.error, answer.advice ?? '', answer.ok ? 'good' : 'bad'];
        } catch {
            [this.message, this.advice, this.tone] = ['Fasti itself does not answer.', 'Check that it still runs, then try again.', 'bad'];
        }
        this.busy = false;
    },
}));

/** What a choice of schemas and patterns would read, shown while it is made. The rules are those of core/Survey/Choice.php. */
Alpine.data('choice', () => ({
    tally: '',
    init() { this.count(); },
    count() {
        const all = this.$refs.all.checked;
        const ticks = [...this.$root.querySelectorAll('[data-schema][type=checkbox]')];
        ticks.forEach((tick) => { tick.disabled = all; });
        const schemas = new Set(ticks.filter((tick) => all || tick.checked).map((tick) => tick.value));
        const patterns = (text) => (text.match(/(?:"(?:[^"]|"")*"|[^\s,;"])+/g) ?? []).map((pattern) => ({
            dotted: pattern.includes('.'),
            regex: new RegExp(`^${pattern.replace(/[\\^$+.()|{}[\]]/g, '\\$&').replace(/\*/g, '.*').replace(/\?/g, '.')}$`, 'isu'),
        }));
        const include = patterns(this.$refs.include.value);
        const exclude = patterns(this.$refs.exclude.value);
        const hits = (list, name, place) => list.some((pattern) => pattern.regex.test(name) || (pattern.dotted && pattern.regex.test(place)));
        const counts = { table: 0, view: 0, collection: 0 };
        this.$refs.objects.querySelectorAll('li').forEach((item) => {
            const { schema, name, place, kind } = item.dataset;
            const taken = schemas.has(schema) && (include.length === 0 || hits(include, name, place)) && !hits(exclude, name, place);
            item.classList.toggle('left-out', !taken);
            counts[kind === 'materialized view' ? 'view' : kind] += taken ? 1 : 0;
        });
        const say = (n, noun) => `${n.toLocaleString('en')} ${noun}${n === 1 ? '' : 's'}`;
        this.tally = `${Object.entries(counts).filter(([kind, count]) => count > 0 || kind === 'table').map(([kind, count]) => say(count, kind)).join(', ')} will be read.`;
    },
}));

Alpine.data('register', () => ({
    init() {
        this.load = later(110, async () => {
            const query = new URLSearchParams([...new FormData(this.$root)].filter(([, value]) => value !== '' && value !== '0'));
            const address = `${location.pathname}?${query}`;
            this.asked = address;
            const rows = await html(address);
            if (this.asked === address) {
                document.getElementById('rows').innerHTML = rows;
                history.replaceState(null, '', address);
                document.querySelectorAll('[data-narrowed]').forEach((link) => { link.search = `?register=1&${query}`; });
            }
        });
    },
    changed(event) {
        if (event.type !== 'submit' && event.target.name === 'source') {
            this.$root.elements.schema.value = '';
        }
        this.load();
    },
}));

function walk(event, root) {
    const rows = [...root.querySelectorAll('[data-row]')];
    const at = rows.findIndex((row) => row.classList.contains('at'));
    const next = rows[Math.min(rows.length - 1, Math.max(0, at + (event.key === 'j' ? 1 : -1)))];
    rows[at]?.classList.remove('at');
    next?.classList.add('at');
    next?.focus({ preventScroll: true });
    next?.scrollIntoView({ block: 'nearest' });
    return next;
}

const plainKey = (event) => !inText(event.target) && !event.ctrlKey && !event.metaKey && !event.altKey && !document.querySelector('dialog[open]');

Alpine.data('findings', findings(walk));

Alpine.data('rows', () => ({
    async more(event) {
        const button = event.target.closest('[data-more]');
        if (!button) {
            return;
        }
        button.disabled = true;
        const query = new URLSearchParams(location.search);
        query.set('after', button.dataset.more);
        const page = document.createElement('div');
        page.innerHTML = await html(`${location.pathname}?${query}`);
        this.$root.querySelector('tbody').append(...page.querySelectorAll('tbody > tr'));
        const next = page.querySelector('[data-more]');
        button.closest('p').replaceWith(next ? next.closest('p') : '');
    },
    key(event) {
        if (!plainKey(event)) {
            return;
        }
        if (event.key === 'j' || event.key === 'k') {
            walk(event, this.$root);
        } else if (event.key === 'Enter') {
            const link = this.$root.querySelector('.at a');
            if (link && document.activeElement?.tagName !== 'A') {
                location.href = link.href;
            }
        }
    },
}));

Alpine.data('folio', () => ({
    init() {
        this.$root.classList.toggle('no-index', localStorage.getItem('fasti:index') === 'hidden');
        this.$root.querySelector('.index .current')?.scrollIntoView({ block: 'center' });
        window.scrollTo(0, 0);
        document.querySelector(':target')?.scrollIntoView({ block: 'center' });
    },
    fold() {
        // Called from within the page, whose own component is the nearer root.
        localStorage.setItem('fasti:index', this.$el.closest('.folio').classList.toggle('no-index') ? 'hidden' : 'shown');
    },
}));

Alpine.data('entries', () => ({
    init() {
        this.load = later(110, async (query) => { this.$refs.rows.innerHTML = await html(`${this.$root.dataset.url}?q=${encodeURIComponent(query)}&current=${this.$root.dataset.current}`); });
    },
    typed(event) { this.load(event.target.value.trim()); },
}));

/** A code list of the values that a field has; the page shows it then. */
async function makeList(button, tell) {
    button.disabled = true;
    const answer = await send(button.dataset.makeList, { base: button.dataset.base });
    if (answer.ok) {
        location.href = answer.list;
    } else {
        button.disabled = false;
        tell(answer.error ?? 'Somebody has written here meanwhile. Load the page to see what.', 'bad');
    }
}

Alpine.data('entry', () => ({
    status: '',
    tone: '',
    init() {
        const root = this.$root;
        const tell = (words, tone) => { this.status = words; this.tone = tone; };
        this.texts = new Texts(root, tell);
        this.drafts = root.dataset.urlTake ? new Drafts(root, this.texts, tell) : null;
        root.addEventListener('click', (event) => {
            const row = event.target.closest('[data-row]');
            if (row) {
                root.querySelectorAll('[data-row].at').forEach((each) => each.classList.remove('at'));
                row.classList.add('at');
            }
            const open = event.target.closest('[data-open]');
            if (open) {
                this.unfold(open.closest('[data-row]'));
            }
            const list = event.target.closest('[data-make-list]');
            if (list) {
                makeList(list, tell);
            }
            const take = event.target.closest('[data-take]');
            if (take) {
                this.take(take);
            }
        });
        root.addEventListener('text-saved', () => {
            const rows = [...root.querySelectorAll('[data-row]:not(.is-gone) [data-text][data-property=meaning]')];
            const described = rows.filter((text) => text.dataset.value !== '').length;
            const figure = root.querySelector('[data-described]');
            if (!figure) {
                return;
            }
            figure.textContent = `${described} of ${rows.length} ${rows.length === 1 ? 'field' : 'fields'}`;
            const bar = document.querySelector('.index .current progress');
            if (bar && rows.length > 0) {
                bar.value = Math.round(100 * described / rows.length);
                bar.classList.toggle('low', bar.value < 50);
            }
        });
        root.addEventListener('change', (event) => {
            if (event.target.matches('[data-choice]')) {
                this.chosen(event.target);
            }
        });
        root.addEventListener('told', (event) => { [this.status, this.tone] = [event.detail.words, event.detail.tone]; });
    },
    chosen(select) {
        return chosen(select, this.$root.dataset.texts, this.texts.sitting, (words, tone) => { this.status = words; this.tone = tone; });
    },
    unfold(row) {
        const more = row.querySelector('[data-more]');
        more.hidden = !more.hidden;
        row.querySelector('[data-open]').setAttribute('aria-expanded', String(!more.hidden));
    },
    /** The first draft of the row, or the next one on the page. */
    draft(row, whole) {
        const at = document.activeElement?.closest?.('[data-draft]');
        const first = row && !at ? this.drafts?.all(row)[0] : null;
        if (first) {
            first.focus();
        } else if (!this.drafts?.next(at ?? (whole?.contains(document.activeElement) ? null : at))) {
            [this.status, this.tone] = ['No draft is left on this page.', 'busy'];
        }
    },
    take(button) {
        const text = button.dataset.for.startsWith('entry')
            ? this.$root.querySelector('[data-text][data-topic=entry][data-property=meaning]')
            : button.closest('[data-row]').querySelector('[data-text][data-property=meaning]');
        const says = button.dataset.take;
        if (!text.dataset.value.includes(says)) {
            this.texts.put(text, text.dataset.value === '' ? says : `${text.dataset.value}\n\n${says}`);
        }
    },
    key(event) {
        const root = this.$root;
        if ((event.ctrlKey || event.metaKey) && event.key === 'z' && !inText(event.target)) {
            event.preventDefault();
            this.texts.takeBack();
            return;
        }
        if (!plainKey(event)) {
            return;
        }
        const row = root.querySelector('[data-row].at');
        const write = (selector, inside = row ?? root) => {
            const text = inside.querySelector(selector);
            if (text) {
                event.preventDefault();
                this.texts.open(text);
            }
        };
        const whole = root.querySelector('.top');
        switch (event.key) {
            case 'j': case 'k': walk(event, root); break;
            case 'e': write('[data-text][data-property=meaning]', row ?? whole); break;
            case 'b': write('[data-text][data-property=businessName], [data-text][data-property=label]', row ?? whole); break;
            case 'g': write('[data-text][data-property=grain]', whole); break;
            case 'c': (row ?? whole).querySelector('[data-take]')?.click(); break;
            case 'd': this.draft(row, whole); break;
            case 'v': row?.querySelector('[data-make-list]')?.click(); break;
            case 'Enter': if (row && document.activeElement === row) { this.unfold(row); } break;
            case 'Escape': row?.classList.remove('at'); break;
            case '[': if (root.dataset.before) { location.href = root.dataset.before; } break;
            case ']': if (root.dataset.after) { location.href = root.dataset.after; } break;
            default:
        }
    },
}));

Alpine.data('history', () => ({
    async back(event) {
        const button = event.target.closest('[data-change]');
        if (button) {
            button.disabled = true;
            await fetch(this.$root.dataset.back.replace('/0/', `/${button.dataset.change}/`), { method: 'POST', headers: { ...HEADERS, 'X-Csrf-Token': token() } });
            location.reload();
        }
    },
}));

/** Drafts that were taken in one go. */
Alpine.data('takings', () => ({
    async back(event) {
        const button = event.target.closest('[data-back]');
        if (button) {
            button.disabled = true;
            const answer = await send(button.dataset.back, {});
            answer.ok ? location.reload() : button.replaceWith(answer.error ?? 'It could not be taken back.');
        }
    },
}));

Alpine.start();
