// Editing in place. Everything typed is kept in this browser until the server has it, so that neither a lost
// connection nor an expired sign-in costs a keystroke; a text that somebody else changed meanwhile is never overwritten.
import { HEADERS, later, token } from './ask.js';

const WAIT = 500;
const RETRY = 4000;
const keyOf = (data) => `fasti:text:${data.topic}:${data.id}:${data.property}`;

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

    async freshToken() {
        try {
            const page = await fetch(location.href, { headers: HEADERS });
            const fresh = /name="texts-token" content="([^"]+)"/.exec(await page.text());
            if (fresh) {
                document.querySelector('meta[name="texts-token"]').content = fresh[1];
            }
        } catch { /* the next try will see */ }
    }

    again(text, why) {
        this.tell(why, 'bad');
        clearTimeout(this.timer);
        this.timer = setTimeout(async () => {
            if (why.includes('signed out') || why.includes('Sign in')) {
                await this.freshToken();
            }
            this.saving.forEach((each) => this.save(each));
        }, RETRY);
    }

    /** Somebody else wrote meanwhile: both versions are shown, and the person chooses. */
    clash(text, answer) {
        const data = text.dataset;
        const box = document.createElement('span');
        box.className = 'clash';
        box.setAttribute('role', 'alertdialog');
        const say = (tag, words, inside = box) => inside.appendChild(Object.assign(document.createElement(tag), { textContent: words }));
        say('b', `${answer.by ?? 'Somebody'} changed this while you were writing. Nothing is lost; which shall stand?`);
        const pair = say('span', '');
        pair.className = 'pair';
        for (const [who, words] of [[answer.by ?? 'Theirs', answer.value], ['Yours', data.value]]) {
            const side = say('span', '', pair);
            say('b', who, side);
            say('span', words || '(empty)', side);
        }
        const choose = (words, value) => {
            const button = say('button', words);
            button.type = 'button';
            button.className = 'btn btn-plain small';
            button.addEventListener('mousedown', (event) => event.preventDefault());
            button.addEventListener('click', (event) => {
                event.stopPropagation();
                box.remove();
                data.base = answer.value;
                data.value = value;
                this.keep(text);
                this.draw(text, undefined);
                this.save(text);
            });
        };
        choose('Keep theirs', answer.value);
        choose('Keep mine', data.value);
        choose('Keep both, one after the other', [answer.value, data.value].filter(Boolean).join(text.classList.contains('long') ? '\n\n' : ' / '));
        text.appendChild(box);
        this.tell('Two people wrote here', 'bad');
    }

    /** Texts that were typed here and never reached the server: saved now if nobody else has written since. */
    restore() {
        for (const text of this.root.querySelectorAll('[data-text]')) {
            let kept = null;
            try { kept = JSON.parse(localStorage.getItem(keyOf(text.dataset)) ?? 'null'); } catch { /* damaged: ignored */ }
            if (!kept || kept.value === text.dataset.value) {
                continue;
            }
            text.dataset.base = kept.base;
            text.dataset.value = kept.value;
            this.draw(text, undefined);
            this.keep(text);
            this.save(text);
        }
    }

    async takeBack() {
        // What is still on its way to the server has to arrive before it can be taken back.
        for (let tries = 0; this.saving.size > 0 && tries < 60; tries += 1) {
            this.saving.forEach((each) => this.save(each));
            await new Promise((resolve) => { setTimeout(resolve, 50); });
        }
        const last = this.done.pop();
        if (!last) {
            return this.tell('Nothing to take back on this page. The history has every change.', 'busy');
        }
        if (last.back) {
            const back = await last.back();
            return this.tell(back.ok ? 'Taken back' : (back.error ?? 'It could not be taken back.'), back.ok ? 'good' : 'bad');
        }
        const response = await fetch(this.backUrl.replace('/0/', `/${last.change}/`), { method: 'POST', headers: { ...HEADERS, 'X-Csrf-Token': token() } });
        const answer = await response.json();
        if (!response.ok) {
            return this.tell(answer.error ?? 'It could not be taken back.', 'bad');
        }
        this.done = this.done.filter((each) => each.back || each.change !== last.change);
        for (const text of this.root.querySelectorAll('[data-text]')) {
            if (keyOf(text.dataset) === last.key) {
                text.dataset.value = text.dataset.base = answer.value;
                text.dataset.html = answer.html;
                this.draw(text, answer.html);
                text.dispatchEvent(new CustomEvent('text-saved', { bubbles: true, detail: answer }));
            }
        }
        // What is typed from here on is a new sitting: it must not be folded into the change that was taken back.
        this.sitting = `${Date.now().toString(36)}-${Math.random().toString(36).slice(2, 8)}`;
        this.tell('Taken back', 'good');
    }
}
