// A diagram that is worked on. The server draws it and leads its lines; here its pieces are chosen, moved and written on.
import { HEADERS, html, later } from '../ask.js';
import { Texts } from '../texts.js';
import { Camera, Inset, pointing } from './camera.js';
import { choosing } from './choosing.js';
import { Edits } from './edits.js';
import { deeds } from './deeds.js';
import { keys } from './keys.js';
import { moving } from './moving.js';
import { Panel } from './panel.js';
import { settingDown } from './setting-down.js';
import { clone } from './words.js';

export class Board {
    constructor(root, told) {
        this.root = root;
        this.told = told;
        this.frame = root.querySelector('[data-board]');
        this.writes = 'writes' in root.dataset;
        this.chosen = new Set();
        this.drawn = new Map();
        this.camera = new Camera(this.frame, () => this.inset?.follow());
        this.inset = new Inset(root.querySelector('.inset'), this.camera);
        this.panel = new Panel(root.querySelector('.board-margin'), this);
        this.texts = new Texts(root, told);
        const state = JSON.parse(root.querySelector('[data-state]').textContent);
        this.edits = new Edits({
            id: `${root.dataset.who}:${state.id}`,
            url: () => this.address(root.dataset.changes),
            sitting: crypto.randomUUID?.() ?? String(Math.random()),
            told,
            answered: (answer) => this.answered(answer),
        });
        this.take(this.frame.querySelector('svg'), state);
        this.camera.dragged((event) => this.grab(event));
        this.frame.addEventListener('click', (event) => this.click(event));
        this.frame.addEventListener('dblclick', (event) => this.opened(event));
        this.frame.addEventListener('dragover', (event) => event.preventDefault());
        this.frame.addEventListener('drop', (event) => this.dropped(event));
        window.addEventListener('pointermove', (event) => this.drag(event));
        window.addEventListener('pointerup', (event) => this.drop(event));
        window.addEventListener('pointercancel', () => this.letGo());
        window.addEventListener('resize', later(120, () => this.camera.take(this.svg, true)));
        setInterval(() => this.listen(), 3000);
        if (this.writes && Object.keys(this.edits.waiting).length > 0) {
            told('What could not be saved last time is sent now.', '');
            this.edits.send({}, { draw: true });
        }
        this.chose();
    }

    address(url, more = {}) {
        const address = new URL(url, location.href);
        const names = new URLSearchParams(location.search).get('names');
        Object.entries({ ...(names ? { names } : {}), ...more }).forEach(([name, value]) => address.searchParams.set(name, value));
        return address.href;
    }

    /** Takes a drawing from the server. */
    take(svg, state) {
        const stay = Boolean(this.svg);
        if (stay && svg !== this.svg) {
            this.svg.replaceWith(svg);
        }
        this.svg = svg;
        const { pieces, kinds, scene, ways, titles, notes, areas } = state;
        Object.assign(this, { pieces, kinds, scene, ways, titles, sizes: notes, areas });
        for (const list of ['pieces', 'ways', 'titles', 'sizes']) {
            this[list] = Array.isArray(this[list]) ? {} : this[list];
        }
        this.edits.since = Math.max(this.edits.since, state.move);
        this.drawnAt = clone(this.scene.pieces);
        this.elements = new Map([
            ...[...svg.querySelectorAll('.tablet')].map((each) => [`t${each.dataset.entry}`, each]),
            ...[...svg.querySelectorAll('.note')].map((each) => [each.dataset.note, each]),
        ]);
        this.lines = new Map([...svg.querySelectorAll('.lines .line')].map((each) => [Number(each.dataset.join), each]));
        this.linesOf = new Map();
        for (const line of this.scene.lines) {
            for (const key of new Set([line.from, line.to])) {
                this.linesOf.set(key, [...(this.linesOf.get(key) ?? []), line]);
            }
        }
        this.frame.querySelector('.empty')?.toggleAttribute('hidden', this.elements.size > 0);
        svg.classList.add('live');
        this.point = pointing(svg);
        this.camera.take(svg, stay);
        this.inset.draw(Object.values(this.scene.pieces));
        this.chosen = new Set([...this.chosen].filter((key) => this.elements.has(key)));
        this.mark();
        this.root.dispatchEvent(new CustomEvent('drawn'));
    }

    answered(answer) {
        if (answer.refused) {
            this.redraw();
            return;
        }
        if (answer.svg) {
            this.taken(answer);
        }
        const met = Object.entries(answer.met ?? {});
        if (met.length > 0) {
            this.told(`${met[0][1]} had changed ${met.map(([key]) => this.name(key)).join(', ')} meanwhile; yours, which is later, stands.`, '');
        } else if (Object.keys(answer.others ?? {}).length > 0) {
            this.others(answer.others);
        } else if (Object.keys(this.edits.waiting).length === 0) {
            this.told('Saved', 'good');
        }
    }

    taken({ svg, state }) {
        if (this.held) {
            this.later = { svg, state };
            return;
        }
        const box = document.createElement('div');
        box.innerHTML = svg;
        this.take(box.querySelector('svg'), state);
    }

    others(changed) {
        const by = [...new Set(Object.values(changed))].join(' and ');
        const names = Object.keys(changed).map((key) => this.name(key));
        this.told(`${by} changed ${names.slice(0, 4).join(', ')}${names.length > 4 ? ` and ${names.length - 4} more` : ''}.`, '');
    }

    async listen() {
        if (document.hidden || this.held || this.edits.busy) {
            return;
        }
        try {
            const response = await fetch(this.address(this.root.dataset.changes, { since: this.edits.since }), { headers: HEADERS });
            const answer = await response.json();
            if (response.ok && answer.svg && !this.edits.busy && !this.held) {
                this.taken(answer);
                this.edits.since = answer.move;
                this.others(answer.others);
            }
        } catch {
            // The next question may be answered.
        }
    }

    async redraw() {
        this.taken(await (await fetch(this.address(this.root.dataset.changes, { since: this.edits.since, draw: 1 }), { headers: HEADERS })).json());
    }

    name(key) {
        return this.titles[key] ?? (key === 'detail' ? 'the level of detail' : `“${(this.pieces[key]?.text ?? 'a note').split('\n')[0].slice(0, 40)}”`);
    }

    /** Remembers a step and what the pieces are now. */
    note(changes) {
        const step = {};
        for (const [key, value] of Object.entries(changes)) {
            step[key] = [clone(this.pieces[key]), clone(value)];
            if (value === null) {
                delete this.pieces[key];
            } else {
                this.pieces[key] = value;
            }
        }
        this.edits.did(step);
    }

    /** Makes a change that the server has to draw. */
    async apply(changes, remember = true) {
        if (Object.keys(changes).length === 0) {
            return;
        }
        if (remember) {
            this.note(changes);
        }
        await this.edits.send(changes, { ways: this.ways, draw: true });
    }

    inside() {
        return Object.keys(this.pieces).filter((key) => key.startsWith('t')).map((key) => key.slice(1)).join(',');
    }

    async ask(url, more) {
        return html(this.address(url, more));
    }
}

Object.assign(Board.prototype, choosing, moving, settingDown, deeds, keys);
