// Editing in place. Everything typed is kept in this browser until the server has it, so that neither a lost
// connection nor an expired sign-in costs a keystroke; a text that somebody else changed meanwhile is never overwritten.
import { HEADERS, later, token } from './ask.js';
import { kept, keyOf } from './texts-kept.js';

const WAIT = 500;

export class Texts {
    constructor(root, tell) {
        this.root = root;
        this.tell = tell;
        this.url = root.dataset.texts;
        this.backUrl = root.dataset.back;
        this.done = [];
        this.saving = new Map();
        this.sitting = `${Date.now().toString(36)}-${Math.random().toString(36).slice(2, 8)}`;
        root.addEventListener('click', (event) => {
            const text = event.target.closest('[data-text]');
            if (text && !event.target.closest('a, textarea, button')) {
                this.open(text);
            }
        });
        root.addEventListener('keydown', (event) => {
            if (event.key === 'Enter' && event.target.matches?.('[data-text]')) {
                event.preventDefault();
                this.open(event.target);
            }
        });
        window.addEventListener('beforeunload', (event) => {
            if (this.saving.size > 0) {
                event.preventDefault();
            }
        });
        this.restore();
    }

    open(text) {
        if (text.querySelector('textarea')) {
            return;
        }
        const data = text.dataset;
        const area = document.createElement('textarea');
        area.className = 'editor';
        area.rows = 1;
        area.value = data.value;
        area.setAttribute('aria-label', data.label);
        text.classList.add('writing');
        // What is written looks like a text from its first letter on, not like the words that stood for it.
        text.classList.remove('blank');
        text.removeAttribute('role');
        text.replaceChildren(area);
        data.base ??= data.value;
        const grow = () => { area.style.height = 'auto'; area.style.height = `${area.scrollHeight + 2}px`; };
        const save = later(WAIT, () => this.save(text));
        area.addEventListener('input', () => {
            if (!text.classList.contains('long')) {
                area.value = area.value.replace(/\n/g, ' ');
            }
            data.value = area.value;
            this.keep(text);
            grow();
            save();
        });
        area.addEventListener('keydown', (event) => {
            if (event.key === 'Escape' || (event.key === 'Enter' && (!text.classList.contains('long') || event.ctrlKey || event.metaKey))) {
                event.preventDefault();
                event.stopPropagation();
                this.close(text);
                (text.closest('[data-row]') ?? text).focus();
            }
        });
        area.addEventListener('blur', () => this.close(text));
        area.focus();
        area.setSelectionRange(area.value.length, area.value.length);
        grow();
    }

    close(text) {
        if (!text.classList.contains('writing') || text.querySelector('.clash')) {
            return;
        }
        this.save(text);
        this.draw(text, text.dataset.html);
    }

    draw(text, html) {
        const data = text.dataset;
        text.classList.remove('writing');
        text.classList.toggle('blank', data.value === '');
        text.setAttribute('aria-label', `${data.label}: ${data.value || 'not written yet'}`);
        if (data.value === '') {
            text.textContent = data.blank;
        } else if (text.classList.contains('long') && html !== undefined) {
            // This HTML was made by the server from Markdown, with everything but harmless tags escaped.
            text.innerHTML = html;
        } else {
            text.textContent = data.value;
        }
        // A button has no links within.
        text.setAttribute('role', text.querySelector('a') ? 'group' : 'button');
    }

    /** Sets a text as if it had been typed. */
    put(text, value) {
        text.dataset.base ??= text.dataset.value;
        text.dataset.value = value;
        this.keep(text);
        this.draw(text, undefined);
        return this.save(text);
    }

    keep(text) {
        try {
            localStorage.setItem(keyOf(text.dataset), JSON.stringify({ base: text.dataset.base, value: text.dataset.value, at: Date.now() }));
        } catch {
            // A full or forbidden storage: the server still gets every change.
        }
        this.saving.set(keyOf(text.dataset), text);
        this.tell('Writing …', 'busy');
    }

    async save(text) {
        const data = text.dataset;
        const key = keyOf(data);
        if (!this.saving.has(key) || data.busy === '1' || text.querySelector('.clash')) {
            return;
        }
        data.busy = '1';
        const value = data.value;
        let response;
        try {
            response = await fetch(this.url, {
                method: 'POST',
                headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
                body: JSON.stringify({ topic: data.topic, id: Number(data.id), property: data.property, base: data.base, value, sitting: this.sitting }),
            });
        } catch {
            data.busy = '';
            return this.again(text, 'No connection. What you wrote is kept here and will be saved when it is back.');
        }
        data.busy = '';
        const answer = response.headers.get('Content-Type')?.includes('json') ? await response.json() : {};
        if (response.ok) {
            data.base = answer.value;
            data.html = answer.html;
            if (answer.change) {
                this.done.push({ change: answer.change, key });
            }
            if (data.value === value) {
                this.saving.delete(key);
                try { localStorage.removeItem(key); } catch { /* nothing was kept */ }
                if (!text.querySelector('textarea')) {
                    this.draw(text, answer.html);
                }
                this.tell('Saved', 'good');
                text.dispatchEvent(new CustomEvent('text-saved', { bubbles: true, detail: answer }));
            } else {
                return this.save(text);
            }
        } else if (response.status === 409) {
            this.clash(text, answer);
        } else if (response.status === 422) {
            this.tell(answer.error, 'bad');
        } else if (response.status === 401) {
            this.again(text, answer.error);
        } else if (response.status === 403) {
            await this.freshToken();
            this.again(text, 'The page had stood open too long; saving again. What you wrote is kept here.');
        } else {
            this.again(text, 'The server could not save this. What you wrote is kept here; trying again.');
        }
    }

}

Object.assign(Texts.prototype, kept);
