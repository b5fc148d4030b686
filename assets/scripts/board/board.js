// A diagram that is worked on. The server draws it and leads its lines; here its pieces are chosen, moved and written on.
import { HEADERS, html, inText, later } from '../ask.js';
import { chosen } from '../choice.js';
import { Texts } from '../texts.js';
import { Camera, Inset, pointing } from './camera.js';
import { Edits } from './edits.js';
import { deeds } from './deeds.js';
import { moving } from './moving.js';
import { Panel } from './panel.js';
import { clone, places, within } from './words.js';

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
        Object.assign(this, { pieces: state.pieces, scene: state.scene, ways: state.ways, titles: state.titles, sizes: state.notes, areas: state.areas });
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

    // --- choosing

    keyAt(target) {
        const element = target.closest?.('.tablet, .note');
        if (!element || !this.svg.contains(element)) {
            return null;
        }
        return element.dataset.entry ? `t${element.dataset.entry}` : element.dataset.note;
    }

    choose(keys, add = false) {
        this.chosen = new Set(add ? [...this.chosen, ...keys] : keys);
        this.chose();
    }

    chose() {
        this.mark();
        const tablets = this.tablets();
        this.root.querySelectorAll('[data-for]').forEach((each) => {
            const wants = each.dataset.for;
            each.hidden = !({ none: this.chosen.size === 0, some: this.chosen.size > 0, tablets: tablets.length > 0, two: tablets.length > 1,
                more: this.chosen.size > 1, note: this.chosen.size === 1 && this.isNote() })[wants];
        });
        if (this.chosen.size === 1) {
            const [key] = this.chosen;
            const count = (this.linesOf.get(key) ?? []).length;
            this.say(key.startsWith('t') ? `${this.name(key)}, ${places(count, 'join')} in the picture` : `${this.pieces[key]?.kind} ${this.name(key)}`);
            this.camera.bring(this.rect(key));
        } else if (this.chosen.size > 1) {
            this.say(`${this.chosen.size} chosen`);
        }
    }

    mark() {
        this.elements.forEach((element, key) => element.classList.toggle('chosen', this.chosen.has(key)));
    }

    say(words) {
        this.root.querySelector('[data-aloud]').textContent = words;
    }

    tablets() {
        return [...this.chosen].filter((key) => key.startsWith('t'));
    }

    isNote() {
        return [...this.chosen].every((key) => key.startsWith('n'));
    }

    rect(key) {
        const [x, y, width, height] = this.scene.pieces[key];
        const size = this.sizes[key] ?? [width, height];
        return { x, y, width: size[0], height: size[1] };
    }

    /** What lies within a frame goes where the frame goes. */
    heldBy(key) {
        if (this.pieces[key]?.kind !== 'frame') {
            return [];
        }
        const frame = this.rect(key);
        return Object.keys(this.scene.pieces).filter((other) => {
            const box = this.rect(other);
            return other !== key && within(box, frame);
        });
    }

    click(event) {
        const leads = event.target.closest('.leads');
        const line = event.target.closest('.line[data-join]');
        if (leads) {
            event.preventDefault();
            this.choose([`t${leads.dataset.leads}`]);
            this.panel.leads(leads.dataset.leads);
        } else if (line) {
            this.panel.join(line.dataset.join);
        } else if (this.writes && this.keyAt(event.target)) {
            event.preventDefault();
        } else if (!event.target.closest('a, button, textarea') && !event.shiftKey) {
            this.choose([]);
        }
        this.frame.focus({ preventScroll: true });
    }

    opened(event) {
        const key = this.keyAt(event.target);
        if (key?.startsWith('n') && this.writes) {
            this.write(key);
        } else if (key && this.writes) {
            location.href = this.elements.get(key).querySelector('a')?.href ?? location.href;
        }
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

    // --- keys and deeds

    async undo(back = true) {
        await this.edits.busy;
        const turned = this.edits.turn(this.pieces, back);
        if (!turned) {
            this.told(back ? 'There is nothing to take back.' : 'There is nothing to make again.', '');
            return;
        }
        if (Object.keys(turned.changes).length > 0) {
            for (const [key, value] of Object.entries(turned.changes)) {
                if (value === null) { delete this.pieces[key]; } else { this.pieces[key] = clone(value); }
            }
            await this.edits.send(turned.changes, { draw: true });
        }
        if (turned.others > 0) {
            this.told(`${places(turned.others, 'piece')} that somebody else has changed since stayed.`, '');
        }
    }

    key(event) {
        const control = event.ctrlKey || event.metaKey;
        if (inText(event.target) || document.querySelector('dialog[open]')) {
            return;
        }
        if (control && event.key.toLowerCase() === 'z' && this.writes) {
            event.preventDefault();
            this.undo(!event.shiftKey);
        } else if (control && event.key.toLowerCase() === 'y' && this.writes) {
            event.preventDefault();
            this.undo(false);
        } else if (control && event.key.toLowerCase() === 'a') {
            event.preventDefault();
            this.choose(Object.keys(this.scene.pieces));
        } else if (!control) {
            this.plainKey(event);
        }
    }

    plainKey(event) {
        const arrows = { ArrowLeft: [-10, 0], ArrowRight: [10, 0], ArrowUp: [0, -10], ArrowDown: [0, 10] };
        if (arrows[event.key] && this.chosen.size > 0 && this.writes) {
            event.preventDefault();
            this.nudge(arrows[event.key], event);
        } else if (event.key === 'j' || event.key === 'k') {
            event.preventDefault();
            this.next(event.key === 'j' ? 1 : -1);
        } else if (event.key === 'Escape') {
            if (!this.panel.close()) {
                this.choose([]);
            }
        } else if (event.key === 'Enter' && this.line) {
            this.panel.join(this.line);
        } else if (event.key === 'Enter' && this.chosen.size === 1 && !event.target.closest?.('a, button')) {
            this.open([...this.chosen][0]);
        } else if (!event.altKey && !this.deedOf(event) && (!arrows[event.key] || this.chosen.size === 0)) {
            this.camera.key(event);
        }
    }

    open(key) {
        if (key.startsWith('n')) {
            this.write(key);
        } else {
            this.panel.tablet(key);
        }
    }

    /** Does what a key stands for, where a button says so. */
    deedOf(event) {
        const deed = this.root.querySelector(`[data-do][data-key="${CSS.escape(event.key)}"]`);
        if (!deed || (deed.hidden && deed.closest('[hidden]') !== null)) {
            return false;
        }
        event.preventDefault();
        this.deed(deed.dataset.do);

        return true;
    }

    /** Goes through the pieces as they stand, from left to right and downwards. */
    next(step) {
        const keys = Object.keys(this.scene.pieces).sort((a, b) => {
            const [p, q] = [this.rect(a), this.rect(b)];
            return Math.round(p.y / 120) - Math.round(q.y / 120) || p.x - q.x;
        });
        const at = keys.indexOf([...this.chosen].pop());
        this.line = null;
        if (keys.length > 0) {
            this.choose([keys[(at + step + keys.length) % keys.length]]);
        }
    }

    /** Goes through the lines of the chosen tablet, or of the picture. */
    nextLine() {
        const [key] = this.tablets();
        const lines = key ? this.linesOf.get(key) ?? [] : this.scene.lines;
        if (lines.length === 0) {
            this.told('No join of it is in the picture.', '');
            return;
        }
        const at = lines.findIndex((line) => line.id === this.line);
        const line = lines[(at + 1) % lines.length];
        this.line = line.id;
        this.point(this.lines.get(line.id));
        this.say(line.tip);
        this.panel.join(line.id);
    }

    inside() {
        return Object.keys(this.pieces).filter((key) => key.startsWith('t')).map((key) => key.slice(1)).join(',');
    }

    async ask(url, more) {
        return html(this.address(url, more));
    }
}

Object.assign(Board.prototype, moving, deeds);

export const board = () => ({
    status: '',
    tone: '',
    init() {
        this.board = new Board(this.$root, (words, tone) => { this.status = words; this.tone = tone; });
        this.$root.board = this.board;
        this.$root.addEventListener('click', (event) => {
            const deed = event.target.closest('[data-do]');
            if (deed) {
                this.board.deed(deed.dataset.do);
            }
            const level = event.target.closest('[data-level]');
            if (level) {
                this.board.apply({ detail: { shows: level.dataset.level } });
            }
        });
        this.$root.addEventListener('change', (event) => {
            if (event.target.matches('[data-choice]')) {
                chosen(event.target, this.$root.dataset.texts, this.board.edits.sitting, (words, tone) => { this.status = words; this.tone = tone; });
            }
        });
        this.$root.addEventListener('drawn', () => this.levels());
        this.levels();
    },
    levels() {
        const shows = this.board.pieces.detail?.shows ?? 'keys';
        this.$root.querySelectorAll('[data-level]').forEach((each) => each.setAttribute('aria-pressed', String(each.dataset.level === shows)));
    },
    key(event) {
        this.board.key(event);
    },
});
