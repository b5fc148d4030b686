// The queue of what nobody has described: one thing at a time, and the page stays. Enter takes a draft and goes on to the next one,
// or, once the meaning is written, to the next thing.
import { html, inText } from './ask.js';
import { chosen } from './choice.js';
import { Drafts, send } from './drafts.js';
import { Texts } from './texts.js';

export const desk = () => ({
    status: '',
    tone: '',
    init() {
        const root = this.$root;
        this.texts = new Texts(root, (words, tone) => this.tell(words, tone));
        this.drafts = new Drafts(root, this.texts, (words, tone) => this.tell(words, tone));
        root.addEventListener('draft-taken', (event) => event.detail?.topic && this.mark() && this.on());
        root.addEventListener('draft-dismissed', () => this.mark() && this.ready());
        root.addEventListener('text-saved', () => this.mark());
        root.addEventListener('change', (event) => {
            if (event.target.matches('[data-choice]')) {
                chosen(event.target, root.dataset.texts, this.texts.sitting, (words, tone) => this.tell(words, tone));
            }
        });
        root.addEventListener('click', (event) => event.target.closest('[data-from-start]') && this.load(root.dataset.next));
        // Before the editor itself hears of the key, since that closes it.
        root.addEventListener('keydown', (event) => this.writing(event), true);
        this.ready();
    },
    tell(words, tone) { this.status = words; this.tone = tone; },
    item() { return this.$root.querySelector('[data-item][data-topic]'); },
    meaning() { return this.item()?.querySelector('[data-text][data-property=meaning]'); },
    /** Each change knows of which thing it was, so that taking it back shows that thing again. */
    mark() {
        const data = this.item()?.dataset;
        const last = this.texts.done.at(-1);
        if (data && last && !last.of) {
            last.of = { topic: data.topic, id: data.id };
        }
        return true;
    },
    /** The draft that is to be decided first has the focus. */
    ready() {
        const first = this.drafts.all()[0] ?? this.item();
        if (first && !inText(document.activeElement)) {
            if (!first.matches('[data-draft]')) {
                first.setAttribute('tabindex', '-1');
            }
            first.focus({ preventScroll: true });
        }
    },
    /** After something was taken or written. */
    on() {
        const next = this.drafts.all()[0];
        if (next) {
            next.focus();
        } else if (this.meaning()?.dataset.value) {
            this.next();
        }
    },
    writing(event) {
        const area = event.target.closest?.('textarea');
        const text = area?.closest('[data-text]');
        if (!text) {
            return;
        }
        const done = event.key === 'Enter' && (event.ctrlKey || event.metaKey || !text.classList.contains('long'));
        if (done && text.dataset.value !== '') {
            event.preventDefault();
            event.stopPropagation();
            this.texts.close(text);
            this.drafts.written(text.dataset);
            this.on();
        } else if (event.key === 'Tab' && !event.shiftKey) {
            const all = [...this.$root.querySelectorAll('[data-item] [data-text]')];
            const next = all[all.indexOf(text) + 1];
            if (next) {
                event.preventDefault();
                this.texts.close(text);
                this.texts.open(next);
            }
        }
    },
    key(event) {
        if (inText(event.target) || event.altKey || event.metaKey || document.querySelector('dialog[open]')) {
            return;
        }
        if (event.ctrlKey) {
            if (event.key === 'z') {
                event.preventDefault();
                this.back();
            }
            return;
        }
        if (event.key === 'Enter' && event.target.closest?.('button, a, [data-text], [data-draft]')) {
            return;
        }
        const acts = {
            Enter: () => this.enter(), e: () => this.meaning() && this.texts.open(this.meaning()),
            b: () => this.open('businessName'), g: () => this.open('grain'), v: () => this.open('allowed'),
            l: () => this.later(), n: () => this.next(), o: () => { location.href = this.item().dataset.open; },
        };
        if (event.key === 'r') {
            location.href = this.$root.dataset.register;
        } else if (acts[event.key] && this.item()) {
            event.preventDefault();
            acts[event.key]();
        }
    },
    open(property) {
        const text = this.item().querySelector(`[data-text][data-property=${property}]`);
        if (text) {
            this.texts.open(text);
        }
    },
    enter() {
        const draft = this.drafts.all()[0];
        if (draft) {
            this.drafts.take(draft);
        } else if (this.meaning()?.dataset.value) {
            this.next();
        } else {
            this.texts.open(this.meaning());
        }
    },
    /** The thing behind this one in the order. */
    next() {
        const { worth, entry, topic, id } = this.item().dataset;
        const query = new URLSearchParams(Number.isFinite(Number(worth)) ? { after: worth, entry, behind: topic, number: id } : {});
        return this.load(this.$root.dataset.next, query);
    },
    async load(url, query = new URLSearchParams()) {
        const asked = `${url}${url.includes('?') ? '&' : '?'}${query}`;
        this.asked = asked;
        this.texts.saving.forEach((text) => this.texts.save(text));
        const page = await html(asked);
        if (this.asked === asked) {
            this.$refs.item.innerHTML = page;
            window.scrollTo(0, 0);
            this.texts.restore();
            document.activeElement?.blur();
            this.ready();
        }
    },
    async later() {
        const { topic, id } = this.item().dataset;
        const answer = await send(this.$root.dataset.later, { topic, id: Number(id) });
        if (!answer.ok) {
            return this.tell(answer.error ?? 'It could not be put off. Try again.', 'bad');
        }
        this.texts.done.push({ of: { topic, id }, back: () => send(this.$root.dataset.later, { topic, id: Number(id), back: true }) });
        this.tell('Put off for a week', 'good');
        return this.next();
    },
    async back() {
        const of = this.texts.done.at(-1)?.of;
        await this.texts.takeBack();
        const now = this.item()?.dataset;
        if (of && (of.topic !== now?.topic || of.id !== now?.id)) {
            await this.load(this.$root.dataset.next, new URLSearchParams({ topic: of.topic, id: of.id }));
        }
    },
});
