// What becomes of a text that could not be saved: it is sent again, decided on, or restored.
import { HEADERS, token } from './ask.js';

const RETRY = 4000;
export const keyOf = (data) => `fasti:text:${data.topic}:${data.id}:${data.property}`;

export const kept = {
    async freshToken() {
        try {
            const page = await fetch(location.href, { headers: HEADERS });
            const fresh = /name="texts-token" content="([^"]+)"/.exec(await page.text());
            if (fresh) {
                document.querySelector('meta[name="texts-token"]').content = fresh[1];
            }
        } catch { /* the next try will see */ }
    },

    again(text, why) {
        this.tell(why, 'bad');
        clearTimeout(this.timer);
        this.timer = setTimeout(async () => {
            if (why.includes('signed out') || why.includes('Sign in')) {
                await this.freshToken();
            }
            this.saving.forEach((each) => this.save(each));
        }, RETRY);
    },

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
    },

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
    },

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
    },
};
