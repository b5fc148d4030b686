import { html, inText, later } from './ask.js';
import { chosen } from './choice.js';
import { Drafts, send } from './drafts.js';
import { plainKey, walk } from './keys.js';
import { Texts } from './texts.js';

export const folio = () => ({
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
});

export const entries = () => ({
    init() {
        this.load = later(110, async (query) => {
            const { url, current } = this.$root.dataset;
            this.$refs.rows.innerHTML = await html(`${url}?q=${encodeURIComponent(query)}&current=${current}`);
        });
    },
    typed(event) { this.load(event.target.value.trim()); },
});

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

export const entry = () => ({
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
        const goes = (address) => { location.href = address; };
        const deeds = {
            j: () => walk(event, root),
            k: () => walk(event, root),
            e: () => write('[data-text][data-property=meaning]', row ?? whole),
            b: () => write('[data-text][data-property=businessName], [data-text][data-property=label]', row ?? whole),
            g: () => write('[data-text][data-property=grain]', whole),
            c: () => (row ?? whole).querySelector('[data-take]')?.click(),
            d: () => this.draft(row, whole),
            v: () => row?.querySelector('[data-make-list]')?.click(),
            Enter: () => row && document.activeElement === row && this.unfold(row),
            Escape: () => row?.classList.remove('at'),
            '[': () => root.dataset.before && goes(root.dataset.before),
            ']': () => root.dataset.after && goes(root.dataset.after),
        };
        deeds[event.key]?.();
    },
});
