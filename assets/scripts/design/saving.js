// Keeps what is written: in this browser with every key, on the server a moment later. Nothing that somebody else wrote is
// ever overwritten: lines that only one of two has changed are put together, and of the others a person decides.
import { HEADERS, later, token } from '../ask.js';

const RETRY = 4000;

export class Saving {
    constructor(page, text) {
        this.page = page;
        this.base = text;
        this.now_ = text;
        this.id = page.root.dataset.design;
        this.url = page.root.dataset.texts;
        this.key = `fasti:design:${this.id}`;
        this.sitting = `${Date.now().toString(36)}-${Math.random().toString(36).slice(2, 8)}`;
        this.soon = later(600, () => this.save());
        this.busy = null;
        window.addEventListener('beforeunload', (event) => {
            if (this.now_ !== this.base) {
                event.preventDefault();
            }
        });
    }

    /** What to begin with: the server's, or what this browser kept of an earlier time. */
    text() {
        try {
            const kept = JSON.parse(localStorage.getItem(this.key) ?? 'null');
            if (kept && kept.text !== this.base && this.page.mayChange) {
                this.restored = kept;
                return kept.base === this.base ? kept.text : this.base;
            }
        } catch {
            // Nothing readable is kept here.
        }
        return this.base;
    }

    begin() {
        if (this.restored && this.restored.base === this.base) {
            this.changed(this.restored.text);
            this.tell('What you wrote last is there again.', 'busy');
            this.page.check();
        } else if (this.restored) {
            this.now_ = this.restored.text;
            this.together(this.restored.base, this.restored.text);
        } else {
            this.tell(this.page.mayChange ? 'Saved' : '', 'good');
        }
    }

    tell(words, how) {
        const place = this.page.root.querySelector('[data-saved]');
        place.textContent = words;
        place.className = `saved ${how}`;
    }

    changed(text) {
        this.now_ = text;
        try {
            localStorage.setItem(this.key, JSON.stringify({ base: this.base, text }));
        } catch {
            // A full or forbidden storage: the server still gets every change.
        }
        this.tell('Writing …', 'busy');
        this.soon();
    }

    async now() {
        while (this.now_ !== this.base && (await this.save())) {
            // Once more, where something was written meanwhile.
        }
    }

    save() {
        this.busy ??= this.send().finally(() => { this.busy = null; });
        return this.busy;
    }

    async send() {
        const text = this.now_;
        const response = await fetch(this.url, {
            method: 'POST',
            headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
            body: JSON.stringify({ topic: 'design', id: Number(this.id), property: 'outline', base: this.base, value: text, sitting: this.sitting }),
        }).catch(() => null);
        if (!response || response.status >= 500) {
            this.tell('Not saved yet: the server does not answer. It is kept in this browser.', 'bad');
            setTimeout(() => this.save(), RETRY);
            return false;
        }
        const answer = await response.json().catch(() => ({}));
        if (response.status === 409) {
            await this.together(this.base, text, answer);
            return false;
        }
        if (!response.ok) {
            this.tell(answer.error ?? 'Not saved. Sign in again; what you wrote is kept in this browser.', 'bad');
            return false;
        }
        // The server keeps no blanks at the end.
        this.base = text;
        if (this.now_ === text) {
            localStorage.removeItem(this.key);
            this.tell('Saved', 'good');
        } else {
            this.soon();
        }
        return true;
    }

    /** Puts together what two people wrote. */
    async together(base, mine, answer = {}) {
        const done = await this.page.ask('merge', { base, mine });
        if (!done) {
            return;
        }
        const by = answer.by ?? done.by ?? 'Somebody';
        if (done.clashes.length === 0) {
            this.base = done.theirs;
            this.page.editor.set(done.text);
            this.changed(done.text);
            this.tell(`${by} wrote meanwhile; both are in it now.`, 'busy');
            return;
        }
        this.decide(by, done, mine);
    }

    decide(by, done, mine) {
        const dialog = document.createElement('dialog');
        dialog.className = 'design-dialog clash-dialog';
        const title = document.createElement('h2');
        title.textContent = `${by} has changed the same lines`;
        dialog.append(title);
        for (const clash of done.clashes) {
            const pair = document.createElement('div');
            pair.className = 'pair';
            for (const [whose, lines] of [['Yours', clash.mine], [by, clash.theirs]]) {
                const side = document.createElement('pre');
                const who = document.createElement('b');
                who.textContent = `${whose}\n`;
                side.append(who, lines.join('\n') || '(taken away)');
                pair.append(side);
            }
            dialog.append(pair);
        }
        const choices = document.createElement('p');
        choices.className = 'side';
        for (const [words, text] of [['Keep mine in these lines', done.mine], [`Take those of ${by}`, done.text]]) {
            const button = document.createElement('button');
            button.type = 'button';
            button.className = 'btn btn-plain';
            button.textContent = words;
            button.addEventListener('click', () => {
                this.base = done.theirs;
                this.page.editor.set(text);
                this.changed(text);
                dialog.close();
                dialog.remove();
            });
            choices.append(button);
        }
        dialog.addEventListener('cancel', (event) => event.preventDefault());
        dialog.append(choices);
        document.body.append(dialog);
        dialog.showModal();
        this.tell('Not saved yet: choose which lines are to stand.', 'bad');
        this.mine = mine;
    }
}
