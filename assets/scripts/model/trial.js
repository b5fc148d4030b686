import { html, inText } from '../ask.js';
import { asking } from './asking.js';
import { folded, options } from './options.js';

const PARTS = { m: 'measure', b: 'attribute', w: 'condition', o: 'order', n: 'number of rows', t: 'subtotals' };
/** A question to a model: a sentence whose parts are chosen in place, its SQL, and the answer. */
export const trial = () => ({
    ...options,
    ...asking,
    init() {
        this.choices = JSON.parse(this.$root.dataset.choices);
        if (!this.$refs.asked) {
            return;
        }
        this.read();
        this.$root.addEventListener('click', (event) => this.clicked(event));
        this.$root.addEventListener('change', (event) => this.filledIn(event.target));
        this.$refs.typed.addEventListener('keydown', (event) => this.choosing(event));
        this.$refs.options.addEventListener('click', (event) => {
            const option = event.target.closest('[data-value]');
            if (option) {
                this.choose(option.dataset.value, option.dataset.goes === 'on');
            }
        });
        document.addEventListener('pointerdown', (event) => {
            if (!this.$refs.chooser.hidden && !this.$refs.chooser.contains(event.target) && !event.target.closest('.part, .part-more')) {
                this.leave();
            }
        });
        window.addEventListener('popstate', () => this.show(new URLSearchParams(location.search)));
        if (new URLSearchParams(location.search).get('ask') === '1') {
            this.ask();
        }
    },
    /** What the sentence says, from what the server rendered. */
    read() {
        const written = JSON.parse(this.$refs.asked.querySelector('[data-written]').dataset.written);
        const { m = [], b = [], w = [], o = [], n = null, t = null } = written;
        this.asked = { m: [...m], b: [...b], w: [...w], o: [...o], n, t };
        if (this.$refs.begin) {
            this.$refs.begin.hidden = m.length > 0;
        }
        this.beside = JSON.parse(this.$refs.asked.querySelector('[data-written]').dataset.beside ?? '[]');
        const sql = this.$refs.asked.querySelector('template[data-sql]');
        this.$refs.sql.replaceChildren(...sql ? [sql.content.cloneNode(true)] : []);
    },
    parameters() {
        const all = new URLSearchParams();
        for (const part of ['m', 'b', 'w', 'o']) {
            for (const one of this.asked[part]) {
                all.append(`${part}[]`, one);
            }
        }
        for (const part of ['n', 't']) {
            if (this.asked[part]) {
                all.append(part, this.asked[part]);
            }
        }
        // Of a question that is kept already.
        if (this.$root.dataset.of) {
            all.append('of', this.$root.dataset.of);
        }
        return all;
    },
    async changed() {
        const all = this.parameters();
        history.pushState(null, '', `${this.$root.dataset.here}?${all}`);
        await this.show(all);
    },
    /** Of several that are on their way only what was wished last is shown: an earlier one would take back what was chosen since. */
    show(all) {
        this.turn = (this.turn ?? 0) + 1;
        this.shown = this.arrived(this.turn, all);
        return this.shown;
    },
    async arrived(turn, all) {
        const plan = await html(`${this.$root.dataset.plan}?${all}`);
        if (turn === this.turn) {
            this.$refs.asked.innerHTML = plan;
            this.read();
            this.$refs.answer.replaceChildren();
            this.$refs.reconciled.replaceChildren();
        }
    },
    /** What the question leaves open is said in its conditions, so that the address has it. */
    filledIn(input) {
        const name = input.dataset.parameter;
        if (name === undefined) {
            return;
        }
        const value = input.value.replaceAll(/[{}]/g, '').trim();
        const open = new RegExp(`\\{\\s*${name.replaceAll(/[$()*+.?[\\\]^{|}]/g, String.raw`\$&`)}\\s*(?:=[^{}]*)?\\}`, 'gu');
        this.asked.w = this.asked.w.map((text) => text.replaceAll(open, () => (value === '' ? `{${name}}` : `{${name} = ${value}}`)));
        this.changed();
    },
    clicked(event) {
        const part = event.target.closest('[data-part]');
        if (part) {
            this.open(part);
        } else if (event.target.closest('[data-ask]')) {
            this.ask();
        } else if (event.target.closest('[data-copy]')) {
            this.copy();
        } else if (event.target.closest('[data-cancel-ask]')) {
            this.cancel();
        }
    },
    key(event) {
        if (event.key === 'Escape' && this.$refs.chooser && !this.$refs.chooser.hidden) {
            this.leave();
        } else if (event.key === 'Enter' && (event.ctrlKey || event.metaKey) && !event.target.closest?.('form')) {
            event.preventDefault();
            this.ask();
        } else if (!inText(event.target) && !event.ctrlKey && !event.metaKey && !event.altKey && this.$refs.asked) {
            if (event.key in { m: 1, b: 1, w: 1, o: 1 }) {
                const parts = [...this.$refs.asked.querySelectorAll(`[data-part="${event.key}"]`)];
                if (parts.length > 0) {
                    event.preventDefault();
                    this.open(parts[parts.length - 1]);
                }
            } else if (event.key === 's' && this.$refs.keep) {
                event.preventDefault();
                this.$refs.keep.hidden = false;
                this.$refs.keep.querySelector('[name="name"]').focus();
            } else if (event.key === 'c') {
                this.copy();
            }
        }
    },
    /** Shows what may stand in a part, below it. */
    open(button) {
        this.part = button.dataset.part;
        this.at = button.dataset.at === undefined ? null : Number(button.dataset.at);
        this.button = button;
        const { chooser, typed, hint } = this.$refs;
        chooser.hidden = false;
        const place = button.getBoundingClientRect();
        const around = this.$root.getBoundingClientRect();
        chooser.style.top = `${place.bottom - around.top + 6}px`;
        chooser.style.left = `${Math.max(0, Math.min(place.left - around.left, around.width - chooser.offsetWidth))}px`;
        typed.value = this.part === 'w' && this.at !== null ? this.asked.w[this.at] : '';
        typed.placeholder = PARTS[this.part];
        hint.textContent = this.part === 'w' ? 'What is looked at, then how, then values with commas between them. Enter takes it.' : '';
        typed.focus();
        typed.select();
        this.narrow();
    },
    leave() {
        this.$refs.chooser.hidden = true;
        if (this.button?.isConnected) {
            this.button.focus();
        }
    },
    /** What may stand here, narrowed by what is typed. */
    narrow() {
        const typed = this.$refs.typed.value;
        const kinds = { m: this.measures, b: this.attributes, w: this.conditions, o: this.orders, n: this.numbers, t: this.subtotals };
        const options = kinds[this.part].call(this, folded(typed), typed);
        if (this.at !== null && this.part !== 'n' && this.part !== 't') {
            options.push({ value: '', name: `take this ${PARTS[this.part]} away`, words: '', away: true });
        }
        this.$refs.options.replaceChildren(...options.slice(0, 60).map((option, i) => {
            const item = document.createElement('li');
            item.role = 'option';
            item.dataset.value = option.value;
            item.dataset.goes = option.on ? 'on' : '';
            item.setAttribute('aria-selected', String(i === 0));
            item.classList.toggle('away', Boolean(option.away));
            item.classList.toggle('not', Boolean(option.not));
            const name = document.createElement('b');
            name.textContent = option.name;
            const words = document.createElement('span');
            words.textContent = option.not ?? option.words;
            item.append(name, words);
            return item;
        }));
    },

    choosing(event) {
        const options = [...this.$refs.options.querySelectorAll('[role="option"]')];
        const now = options.findIndex((option) => option.getAttribute('aria-selected') === 'true');
        if (event.key === 'ArrowDown' || event.key === 'ArrowUp') {
            event.preventDefault();
            const next = (now + (event.key === 'ArrowDown' ? 1 : options.length - 1)) % Math.max(1, options.length);
            options[now]?.setAttribute('aria-selected', 'false');
            options[next]?.setAttribute('aria-selected', 'true');
            options[next]?.scrollIntoView({ block: 'nearest' });
        } else if (event.key === 'Enter') {
            event.preventDefault();
            event.stopPropagation();
            const chosen = options[now];
            if (chosen && !(this.part === 'w' && chosen.classList.contains('away') && this.$refs.typed.value.trim() !== '')) {
                this.choose(chosen.dataset.value, chosen.dataset.goes === 'on');
            } else if (this.part === 'w' && this.$refs.typed.value.trim() !== '') {
                this.choose(this.$refs.typed.value.trim(), false);
            }
        }
    },
    async choose(value, goesOn) {
        if (goesOn) {
            this.$refs.typed.value = value;
            this.$refs.typed.focus();
            this.narrow();
            return;
        }
        if (this.part === 'n' || this.part === 't') {
            this.asked[this.part] = value === '' ? null : value;
        } else if (value === '') {
            const [away] = this.asked[this.part].splice(this.at, 1);
            this.asked.o = this.asked.o.filter((one) => this.part === 'o' || folded(one.replace(/^-/, '')) !== folded(away));
        } else if (this.at === null) {
            this.asked[this.part].push(value);
        } else {
            const before = this.asked[this.part][this.at];
            this.asked[this.part][this.at] = value;
            if (this.part === 'm' || this.part === 'b') {
                this.asked.o = this.asked.o.filter((one) => folded(one.replace(/^-/, '')) !== folded(before));
            }
        }
        this.$refs.chooser.hidden = true;
        const [part, at] = [this.part, this.at ?? this.asked[this.part]?.length - 1];
        await this.changed();
        if (!this.$refs.chooser.hidden) {
            // Whoever types fast is at the next part already.
            return;
        }
        (this.$refs.asked.querySelector(`[data-part="${part}"][data-at="${at}"]`) ?? this.$refs.asked.querySelector(`[data-part="${part}"]`))?.focus();
    },

    /** The question goes with what is said of it. */
    keeping() {
        for (const [name, value] of this.parameters()) {
            const field = document.createElement('input');
            [field.type, field.name, field.value] = ['hidden', name, value];
            this.$refs.keep.append(field);
        }
    },
});
