// Drafts wherever they stand: Enter takes the one that has the focus, x dismisses it, and the next one has the focus then.
// What was taken is a change like any other: Ctrl+Z takes it back, in all places at once.
import { HEADERS, inText, token } from './ask.js';

export const send = async (url, body) => {
    let response;
    try {
        response = await fetch(url, {
            method: 'POST',
            headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
            body: JSON.stringify(body),
        });
    } catch {
        return { ok: false, error: 'No connection. Nothing was taken; try again when it is back.' };
    }
    const answer = response.headers.get('Content-Type')?.includes('json') ? await response.json() : { html: await response.text() };
    return { ...answer, ok: response.ok };
};

export class Drafts {
    constructor(root, texts, tell) {
        this.root = root;
        this.texts = texts;
        this.tell = tell;
        this.urls = root.dataset;
        root.addEventListener('click', (event) => {
            const draft = event.target.closest('[data-draft]');
            if (event.target.closest('[data-draft-take]')) {
                this.take(draft);
            } else if (event.target.closest('[data-draft-dismiss]')) {
                this.dismiss(draft);
            }
        });
        root.addEventListener('keydown', (event) => {
            const draft = event.target.closest('[data-draft]');
            if (!draft || event.ctrlKey || event.metaKey || event.altKey || (inText(event.target) && event.target.type !== 'checkbox')) {
                return;
            }
            if (event.key === 'Enter' && !event.target.closest('button, a')) {
                event.preventDefault();
                event.stopPropagation();
                this.take(draft);
            } else if (event.key === 'x') {
                event.preventDefault();
                event.stopPropagation();
                this.dismiss(draft);
            }
        });
        root.addEventListener('focusin', (event) => this.look(event.target.closest('[data-draft]')));
        root.addEventListener('text-saved', (event) => this.written(event.target.dataset));
    }

    all(inside = this.root) { return [...inside.querySelectorAll('[data-draft]')].filter((draft) => draft.offsetParent !== null); }

    /** Gives the focus to the draft after this one, or to the first. */
    next(after = null) {
        const all = this.all();
        const at = after ? all.indexOf(after) : -1;
        const to = all[at + 1] ?? null;
        to?.focus();
        to?.scrollIntoView({ block: 'nearest' });
        return to;
    }

    /** Where else the same is true is asked when a draft is looked at, so that the page itself need not wait for it. */
    async look(draft) {
        if (!draft?.dataset.elsewhere || draft.dataset.looked) {
            return;
        }
        draft.dataset.looked = '1';
        const answer = await send(draft.dataset.elsewhere, { property: draft.dataset.property, text: draft.dataset.says });
        if (answer.ok && answer.html.trim() !== '' && draft.isConnected) {
            draft.insertAdjacentHTML('beforeend', answer.html);
        }
    }

    /** Many places are looked at before anything is written: whether they have been, and shows them where not. */
    seen(draft) {
        const places = draft.querySelector('[data-places].is-many:not(.is-shown)');
        if (places) {
            places.classList.add('is-shown');
            places.scrollIntoView({ block: 'nearest' });
            this.tell(`Look at the ${this.ticked(draft).length} other places; the same again takes it in those that are ticked.`, 'good');
        }
        return !places;
    }

    ticked(draft) { return [...draft.querySelectorAll('[data-places] input:checked')].map((box) => Number(box.value)); }

    async take(draft) {
        if (draft.dataset.busy || !this.seen(draft)) {
            return null;
        }
        draft.dataset.busy = '1';
        const { topic, id, property, evidence } = draft.dataset;
        const elsewhere = this.ticked(draft);
        const answer = await send(this.urls.urlTake, { topic, id: Number(id), property, evidence, elsewhere });
        delete draft.dataset.busy;
        if (!answer.ok) {
            this.tell(answer.error ?? 'It could not be taken. Load the page anew, and try again.', 'bad');
            return null;
        }
        const before = this.show(topic, id, property, answer.value, answer.html);
        const places = answer.changes.length;
        const others = elsewhere.map((place) => [place, this.show(topic, place, property, answer.value, answer.html)]);
        const away = document.createComment('draft');
        const next = this.all()[this.all().indexOf(draft) + 1];
        draft.replaceWith(away);
        next?.focus();
        this.texts.done.push({
            back: async () => {
                const back = await send(this.urls.takingBack.replace('/0/', `/${answer.taking}/`), {});
                if (back.ok) {
                    this.show(topic, id, property, before ?? '', '');
                    others.forEach(([place, text]) => this.show(topic, place, property, text ?? '', ''));
                    away.replaceWith(draft);
                    draft.focus();
                }
                return back;
            },
        });
        this.tell(places > 1 ? `Taken in ${places} places` : 'Taken', 'good');
        draft.dispatchEvent(new CustomEvent('draft-taken', { bubbles: true }));
        this.root.dispatchEvent(new CustomEvent('draft-taken', { detail: { topic, id, property, places } }));
        return answer;
    }

    async dismiss(draft) {
        const { topic, id, property, evidence } = draft.dataset;
        const answer = await send(this.urls.urlDismiss, { topic, id: Number(id), property, evidence });
        if (!answer.ok) {
            return this.tell(answer.error ?? 'It could not be dismissed. Load the page anew, and try again.', 'bad');
        }
        const away = document.createComment('draft');
        const next = this.all()[this.all().indexOf(draft) + 1];
        draft.replaceWith(away);
        next?.focus();
        this.texts.done.push({
            back: async () => {
                const back = await send(this.urls.urlDismiss, { topic, id: Number(id), property, back: true });
                if (back.ok) {
                    away.replaceWith(draft);
                    draft.focus();
                }
                return back;
            },
        });
        this.root.dispatchEvent(new CustomEvent('draft-dismissed'));
        return this.tell('Dismissed. It comes back only when what speaks for it changes.', 'good');
    }

    /** Shows a text where the page has it; gives what stood there. */
    show(topic, id, property, value, html) {
        let before = null;
        for (const text of this.root.querySelectorAll(`[data-text][data-topic="${topic}"][data-id="${id}"][data-property="${property}"]`)) {
            before = text.dataset.value;
            text.dataset.value = text.dataset.base = value;
            text.dataset.html = html;
            this.texts.draw(text, html);
            text.dispatchEvent(new CustomEvent('text-saved', { bubbles: true, detail: { value } }));
        }
        for (const choice of this.root.querySelectorAll(`select[data-topic="${topic}"][data-id="${id}"][data-property="${property}"]`)) {
            before = choice.value;
            choice.value = value;
        }
        return before;
    }

    /** Once something is written there is nothing to propose. */
    written({ topic, id, property, value }) {
        if (value !== '') {
            for (const draft of this.root.querySelectorAll(`[data-draft][data-topic="${topic}"][data-id="${id}"][data-property="${property}"]`)) {
                if (!draft.dataset.busy) {
                    draft.remove();
                }
            }
        }
    }
}
