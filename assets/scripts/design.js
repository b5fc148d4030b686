// The page of a design: one outline, seen as text, as rows and as a drawing. The text is the truth; the others change it.
import { HEADERS, inText, later, token } from './ask.js';
import { Drawing } from './design/drawing.js';
import { editor } from './design/editor.js';
import { Ledger } from './design/ledger.js';
import { about, form } from './design/pieces.js';
import { Saving } from './design/saving.js';
import { telling } from './design/telling.js';

class Page {
    constructor(root) {
        this.root = root;
        this.at = root.dataset.at;
        this.depth = root.dataset.depth;
        this.mayChange = root.dataset.mayChange === '1';
        this.sight = JSON.parse(root.querySelector('[data-sight]').textContent);
        this.rules = JSON.parse(root.querySelector('[data-rule-sentences]').textContent);
        const text = root.querySelector('[data-outline-text]').value.replace(/^\n/, '');
        this.saving = new Saving(this, text);
        this.check = later(30, () => this.look());
        this.editor = editor(root.querySelector('[data-outline]'), this.saving.text(), {
            mayChange: this.mayChange,
            counts: root.dataset.howMany,
            changed: (now) => { this.saving.changed(now); this.check(); },
            complete: (now, line, column) => this.ask('complete', { text: now, line, column }),
            script: () => this.script(),
            left: () => root.querySelector('[data-drawing]').focus(),
        });
        this.drawing = new Drawing(root.querySelector('[data-drawing]'), {
            choose: (piece) => about(this, piece),
            moved: (tablet, dx, dy) => this.moved(tablet, dx, dy),
            depth: (depth) => this.deeper(depth),
            connect: (from, to) => this.connect(from, to),
        });
        this.ledger = new Ledger(root.querySelector('[data-ledger]'), {
            mayChange: this.mayChange, edit: (edits) => this.edit(edits), go: (line) => this.go(line),
        });
        this.drawing.fit();
        this.drawing.make();
        this.told();
        this.listen();
        this.saving.begin();
        if (this.mayChange) {
            this.editor.focus();
        }
    }

    listen() {
        this.root.addEventListener('click', (event) => {
            const of = (name) => event.target.closest(`[data-${name}]`);
            if (of('writing')) {
                this.write(of('writing').dataset.writing);
            } else if (of('depth-choice')) {
                this.deeper(of('depth-choice').dataset.depthChoice);
            } else if (of('open')) {
                document.getElementById(`design-${of('open').dataset.open}`).showModal();
            } else if (of('go')) {
                event.preventDefault();
                this.go(Number(of('go').dataset.go));
            } else if (of('ask')) {
                const { ask, about: thing } = of('ask').dataset;
                this.edit([{ what: 'ask', said: ask, of: thing }]);
            } else if (of('faults')) {
                event.preventDefault();
                this.go(this.sight.faults[0]?.line ?? 1);
            } else if (of('new-thing')) {
                form(this, 'thing');
            } else if (of('new-sentence')) {
                form(this, 'sentence');
            } else if (of('format')) {
                this.ask('format', { text: this.editor.text() }).then((done) => done && this.editor.set(done.text));
            }
        });
        document.getElementById('design-rules').addEventListener('change', (event) => this.rule(event));
        document.getElementById('design-rules').addEventListener('click', (event) => {
            const use = event.target.closest('[data-use]');
            if (use) {
                this.edit([{ what: 'set rule', name: use.dataset.rule, said: use.dataset.use }]);
                use.closest('[data-preview]').hidden = true;
            }
        });
        document.getElementById('design-questions').addEventListener('change', (event) => {
            const { question } = event.target.dataset;
            if (question) {
                const box = event.target.closest('.question');
                this.edit([{ what: 'answer', of: question, said: box.querySelector('[data-answer]').value, name: box.querySelector('[data-by]').value }]);
            }
        });
        document.querySelector('[data-question-new]')?.addEventListener('submit', (event) => {
            event.preventDefault();
            const said = event.target.elements.question.value.trim();
            if (said) {
                this.edit([{ what: 'ask', said }]);
                event.target.reset();
            }
        });
        window.addEventListener('keydown', (event) => {
            if ((event.ctrlKey || event.metaKey) && event.key === 'Enter' && !inText(event.target)) {
                this.script();
            }
        });
        window.addEventListener('resize', () => this.drawing.apply());
    }

    async ask(what, given) {
        const response = await fetch(`${this.at}/${what}`, {
            method: 'POST', headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() }, body: JSON.stringify(given),
        }).catch(() => null);
        if (!response || response.status === 401) {
            const why = response ? 'You are signed out. What you wrote' : 'Not connected. What you write';
            this.saving.tell(`${why} is kept in this browser.`, 'bad');
            return null;
        }
        const answer = await response.json().catch(() => null);
        if (answer?.error) {
            this.saving.tell(answer.error, 'bad');
            return null;
        }
        return response.ok ? answer : null;
    }

    /** What is to be seen of the text as it is now. */
    async look() {
        if (this.looking) {
            // One question at a time: the next is asked of the text as it is by then.
            this.again = true;
            return;
        }
        this.looking = true;
        const { depth } = this;
        const { places = {}, ways = {} } = this.sight;
        const sight = await this.ask('check', { text: this.editor.text(), depth, places, ways, ledger: this.ledgered() });
        this.looking = false;
        if (this.again) {
            this.again = false;
            this.look();
        }
        if (!sight || depth !== this.depth) {
            return;
        }
        const before = this.sight.places ?? {};
        this.sight = { ...sight, places: { ...sight.svg ? sight.places : before }, ways: { ...sight.svg ? sight.ways : this.sight.ways } };
        if (sight.svg) {
            this.drawing.show(sight.svg);
            if (this.mayChange && JSON.stringify(before) !== JSON.stringify(sight.places)) {
                this.keepPlaces();
            }
        }
        this.told();
        this.root.dispatchEvent(new CustomEvent('looked'));
    }

    ledgered() {
        return !this.root.querySelector('[data-ledger]').hidden;
    }

    keepPlaces = later(900, () => this.ask('places', { depth: this.depth, places: this.sight.places ?? {} }));

    async edit(edits) {
        const done = await this.ask('edit', { text: this.editor.text(), edits });
        if (done) {
            this.editor.set(done.text);
        } else if (this.ledgered()) {
            this.ledger.show(this.sight.things ?? []);
        }
        return done !== null;
    }

    moved(tablet, dx, dy) {
        const at = this.sight.places?.[tablet];
        if (at) {
            this.sight.places[tablet] = [Math.round(at[0] + dx), Math.round(at[1] + dy)];
            this.keepPlaces();
            this.look();
        }
    }

    /** A sentence between two tablets that a line was led between. */
    async connect(...tablets) {
        const found = await Promise.all(tablets.map((tablet) => this.ask('about', { text: this.editor.text(), depth: this.depth, tablet, line: 0 })));
        const [from, to] = found.map((answer) => answer?.piece?.thing);
        if (this.mayChange && from && to) {
            form(this, 'sentence', from, [], to);
        }
    }

    deeper(depth) {
        this.depth = depth;
        for (const button of this.root.querySelectorAll('[data-depth-choice]')) {
            button.setAttribute('aria-pressed', String(button.dataset.depthChoice === depth));
        }
        history.replaceState(null, '', `?depth=${depth}`);
        this.sight.places = {};
        this.sight.ways = {};
        this.drawing.fitted = false;
        this.drawing.chosen = null;
        about(this, {});
        this.look();
    }

    write(how) {
        for (const button of this.root.querySelectorAll('[data-writing]')) {
            button.setAttribute('aria-pressed', String(button.dataset.writing === how));
        }
        this.root.querySelector('[data-outline]').hidden = how !== 'outline';
        this.root.querySelector('[data-ledger]').hidden = how !== 'ledger';
        if (how === 'outline') {
            this.editor.view.requestMeasure();
            this.editor.focus();
        } else {
            this.root.addEventListener('looked', () => this.root.querySelector('[data-ledger] input')?.focus(), { once: true });
            this.look();
        }
    }

    go(line) {
        this.write('outline');
        this.editor.go(line);
    }

    async script() {
        await this.saving.now();
        location.assign(this.root.dataset.script);
    }
}

Object.assign(Page.prototype, telling);

const root = document.querySelector('[data-design]');
if (root) {
    root.page = new Page(root);
}
