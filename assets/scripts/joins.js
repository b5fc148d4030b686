// Reviewing joins by keyboard: the list stays where it is, what was decided stays in its place with a way back.
import { HEADERS, inText, token } from './ask.js';
import { Texts } from './texts.js';

const json = async (url, body) => {
    const response = await fetch(url, {
        method: 'POST',
        headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
        body: JSON.stringify(body),
    });
    const answer = response.headers.get('Content-Type')?.includes('json') ? await response.json() : {};
    return { ok: response.ok, ...answer };
};

export const joins = () => ({
    status: '',
    tone: '',
    decided: '',
    done: [],
    asked: 0,
    pending: new Set(),
    init() {
        this.texts = new Texts(this.$root, (words, tone) => this.tell(words, tone));
        this.count();
        this.$root.addEventListener('click', (event) => {
            const row = event.target.closest('[data-join]');
            if (row) {
                this.go(row);
            }
        });
    },
    tell(words, tone) { this.status = words; this.tone = tone; },
    rows() { return [...this.$root.querySelectorAll('[data-join]')]; },
    now() { return this.$root.querySelector('[data-join].now'); },
    panel() { return this.$root.querySelector(`[data-panel="${this.now()?.dataset.join}"]`); },
    go(row) {
        if (!row) {
            return;
        }
        this.rows().forEach((each) => each.classList.toggle('now', each === row));
        this.$root.querySelectorAll('[data-panel]').forEach((panel) => { panel.hidden = panel.dataset.panel !== row.dataset.join; });
        row.focus({ preventScroll: true });
        row.scrollIntoView({ block: 'nearest' });
    },
    next(by) {
        const rows = this.rows();
        this.go(rows[Math.min(rows.length - 1, Math.max(0, rows.indexOf(this.now()) + by))]);
    },
    /** After a decision: the next one that nobody has decided. */
    on() {
        const rows = this.rows();
        const at = rows.indexOf(this.now());
        this.go(rows.slice(at + 1).find((row) => row.dataset.standing === '') ?? rows[Math.min(rows.length - 1, at + 1)]);
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
        if (event.target.closest?.('button, a, [data-text]') && event.key === 'Enter') {
            return;
        }
        const acts = {
            j: () => this.next(1), k: () => this.next(-1), Enter: () => this.take(), x: () => this.dismiss(), e: () => this.verb(), o: () => this.open(),
                u: () => this.back(),
        };
        if (acts[event.key] && this.now()) {
            event.preventDefault();
            acts[event.key]();
        }
    },
    take() { this.decide('documented', 'taken'); },
    dismiss() { this.decide('dismissed', 'dismissed'); },
    open() { location.href = this.now().dataset.open; },
    verb() {
        const text = this.panel()?.querySelector('[data-property=verb][data-text]');
        if (text) {
            this.texts.open(text);
        }
    },
    async decide(decision, word) {
        const row = this.now();
        if (!row || !row.dataset.decide || !token() || row.dataset.busy === '1' || row.dataset.standing === decision) {
            return;
        }
        row.dataset.busy = '1';
        const before = row.dataset.standing;
        this.mark(row, decision, word);
        this.on();
        // Answers may come in another order than what was asked, and the last that was asked is taken back first.
        const order = this.asked += 1;
        const asked = json(row.dataset.decide, { base: before, decision });
        this.pending.add(asked);
        const answer = await asked;
        this.pending.delete(asked);
        row.dataset.busy = '';
        if (!answer.ok) {
            this.mark(row, before, '');
            this.go(row);
            return this.tell(answer.error ?? 'It could not be kept. Try again.', 'bad');
        }
        this.done.push({ order, changes: answer.changes, rows: [[row, before]] });
        this.tell(word === 'taken' ? 'Taken' : 'Dismissed', 'good');
    },
    mark(row, standing, word) {
        row.dataset.standing = standing;
        row.classList.toggle('decided', word !== '');
        let mark = row.querySelector('.mark-decided');
        if (word === '') {
            mark?.remove();
        } else {
            mark ??= row.querySelector('.sure').appendChild(Object.assign(document.createElement('span'), { className: 'mark-decided' }));
            mark.textContent = word;
            mark.classList.toggle('patina', word === 'taken');
        }
        this.count();
    },
    count() {
        const rows = this.rows();
        this.decided = rows.length === 0 ? '' : `${rows.filter((row) => row.dataset.standing !== '').length} of ${rows.length} decided`;
    },
    /** What would be taken is looked at before it is. */
    async takeAll() {
        const asked = new URLSearchParams({ source: this.$root.dataset.source, least: this.$refs.least.value });
        const response = await fetch(`${this.$root.dataset.all}?${asked}`, { headers: HEADERS });
        const text = await response.text();
        if (!response.ok) {
            return this.tell(response.status === 422 ? text : 'They could not be looked at. Try again.', 'bad');
        }
        this.$refs.taking.innerHTML = text;
        this.chosen();
        this.$refs.taking.showModal();
    },
    ticked() { return [...this.$refs.taking.querySelectorAll('[name=joins]:checked')].map((box) => Number(box.value)); },
    chosen(event) {
        if (event?.target.closest('[data-close]')) {
            this.$refs.taking.close();
        }
        const button = this.$refs.taking.querySelector('[data-count]');
        if (button) {
            const count = this.ticked().length;
            button.textContent = count === 1 ? 'Take this one' : `Take these ${count}`;
            button.disabled = count === 0;
        }
    },
    async takeThem() {
        const order = this.asked += 1;
        const some = this.ticked();
        this.$refs.taking.close();
        const answer = await json(this.$root.dataset.all, { joins: some });
        if (!answer.ok) {
            return this.tell(answer.error ?? 'They could not be taken.', 'bad');
        }
        const rows = this.rows().filter((row) => answer.taken.includes(Number(row.dataset.join)));
        rows.forEach((row) => this.mark(row, 'documented', 'taken'));
        this.done.push({ order, changes: answer.changes, rows: rows.map((row) => [row, '']) });
        this.tell(answer.taken.length === 1 ? 'One taken' : `${answer.taken.length} taken`, 'good');
    },
    async back() {
        // What is still on its way to the server has to arrive before it can be taken back.
        await Promise.allSettled([...this.pending]);
        if (this.texts.done.length > 0 && this.done.length === 0) {
            return this.texts.takeBack();
        }
        this.done.sort((one, other) => one.order - other.order);
        const last = this.done.pop();
        if (!last) {
            return this.tell('Nothing to take back on this page. The history has every change.', 'busy');
        }
        const answer = await json(this.$root.dataset.undo, { changes: last.changes });
        if (!answer.ok) {
            return this.tell(answer.error ?? 'It could not be taken back.', 'bad');
        }
        last.rows.forEach(([row, before]) => this.mark(row, before, ''));
        this.go(last.rows[0]?.[0]);
        this.tell('Taken back', 'good');
    },
});

/** Copies the statement beside a button. */
document.addEventListener('click', async (event) => {
    const button = event.target.closest('[data-copy]');
    if (!button) {
        return;
    }
    const text = button.closest('div').querySelector('pre').textContent;
    try {
        await window.navigator.clipboard.writeText(text);
        button.textContent = 'Copied';
    } catch {
        const range = document.createRange();
        range.selectNodeContents(button.closest('div').querySelector('pre'));
        window.getSelection().removeAllRanges();
        window.getSelection().addRange(range);
        button.textContent = 'Marked: copy with Ctrl C';
    }
});
