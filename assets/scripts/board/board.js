// A diagram that is worked on. The server draws it and leads its lines; here its pieces are chosen, moved and written on.
import { HEADERS, html, inText, later } from '../ask.js';
import { chosen } from '../choice.js';
import { Texts } from '../texts.js';
import { Camera, Inset, pointing } from './camera.js';
import { Edits } from './edits.js';
import { aligned, snapped } from './snap.js';
import { Panel } from './panel.js';

const clone = (value) => JSON.parse(JSON.stringify(value ?? null));
const within = (box, frame) => box.x >= frame.x && box.y >= frame.y
    && box.x + box.width <= frame.x + frame.width && box.y + box.height <= frame.y + frame.height;
const places = (count, noun) => `${count} ${noun}${count === 1 ? '' : 's'}`;

export class Board {
    constructor(root, told) {
        this.root = root;
        this.told = told;
        this.frame = root.querySelector('[data-board]');
        this.writes = 'writes' in root.dataset;
        this.chosen = new Set();
        this.camera = new Camera(this.frame, () => this.inset?.follow());
        this.inset = new Inset(root.querySelector('.inset'), this.camera);
        this.panel = new Panel(root.querySelector('.board-margin'), this);
        this.texts = new Texts(root, told);
        const state = JSON.parse(root.querySelector('[data-state]').textContent);
        this.edits = new Edits({
            id: state.id,
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
    held_by(key) {
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

    // --- moving

    grab(event) {
        if (event.target.closest('textarea, button, .leads, .line')) {
            return event.target.closest('.line') === null;
        }
        const key = this.writes ? this.keyAt(event.target) : null;
        if (!key) {
            if (event.shiftKey && this.writes) {
                this.held = { band: this.camera.at(event.clientX, event.clientY), x: event.clientX, y: event.clientY };
                return true;
            }
            return false;
        }
        if (this.pieces[key]?.kind === 'frame' && event.target.classList.contains('frame')) {
            return false;
        }
        if (event.ctrlKey || event.metaKey || event.shiftKey) {
            this.chosen.has(key) ? this.chosen.delete(key) : this.chosen.add(key);
            this.chose();
            return true;
        }
        if (!this.chosen.has(key)) {
            this.choose([key]);
        }
        const sizing = event.target.classList.contains('grip');
        this.held = { key, sizing, x: event.clientX, y: event.clientY, moved: false, ...(sizing ? { from: this.rect(key) } : this.lift([...this.chosen])) };
        return true;
    }

    /** Gets pieces ready to be moved: which others go with them, and the lines that follow. */
    lift(keys) {
        const all = new Set(keys);
        keys.forEach((key) => this.held_by(key).forEach((other) => all.add(other)));
        const from = Object.fromEntries([...all].map((key) => [key, this.rect(key)]));
        const loose = new Map();
        all.forEach((key) => (this.linesOf.get(key) ?? []).forEach((line) => loose.set(line.id, line)));
        const boxes = Object.values(from);
        const x = Math.min(...boxes.map((box) => box.x));
        const y = Math.min(...boxes.map((box) => box.y));
        return {
            all, from, loose: [...loose.values()],
            box: { x, y, width: Math.max(...boxes.map((box) => box.x + box.width)) - x, height: Math.max(...boxes.map((box) => box.y + box.height)) - y },
            others: Object.entries(this.scene.pieces).filter(([key]) => !all.has(key)).map(([, rect]) => rect),
        };
    }

    drag(event) {
        if (!this.held) {
            return;
        }
        const started = performance.now();
        if (this.held.band) {
            this.band(event);
            return;
        }
        const dx = (event.clientX - this.held.x) / this.camera.scale;
        const dy = (event.clientY - this.held.y) / this.camera.scale;
        if (!this.held.moved && Math.hypot(dx, dy) * this.camera.scale < 4) {
            return;
        }
        if (!this.held.moved) {
            this.held.moved = true;
            this.frame.classList.add('moving');
            if (!this.held.sizing) {
                this.loosen(this.held.loose);
            }
        }
        if (this.held.sizing) {
            this.size(dx, dy);
            return;
        }
        const { box, others } = this.held;
        const near = snapped({ ...box, x: box.x + dx, y: box.y + dy }, event.altKey ? [] : others);
        this.shift(this.held, dx + near.dx, dy + near.dy);
        this.guides(near.guides);
        this.spent = performance.now() - started;
        performance.measure?.('drag', { start: started, end: performance.now() });
    }

    /** While pieces move, their lines are drawn in the plainest way. */
    loosen(lines) {
        for (const line of lines) {
            const group = this.lines.get(line.id);
            group.classList.add('loose');
            group.innerHTML = '<path></path>';
        }
    }

    shift(held, dx, dy) {
        held.by = [dx, dy];
        held.all.forEach((key) => {
            const { x, y } = held.from[key];
            const rect = this.scene.pieces[key];
            [rect[0], rect[1]] = [x + dx, y + dy];
            this.place(key);
        });
        for (const line of held.loose) {
            this.lines.get(line.id).firstChild.setAttribute('d', this.plain(line));
        }
    }

    place(key) {
        const [x, y] = this.scene.pieces[key];
        const [ownX, ownY] = this.drawnAt[key];
        this.elements.get(key)?.setAttribute('transform', `translate(${x - ownX},${y - ownY})`);
    }

    plain(line) {
        const [ax, ay, aw] = this.scene.pieces[line.from];
        const [bx, by, bw] = this.scene.pieces[line.to];
        const y1 = ay + (line.leaves[0] + line.leaves[1]) / 2;
        const y2 = by + (line.enters[0] + line.enters[1]) / 2;
        if (ax + aw + 20 < bx) {
            return `M${ax + aw},${y1}H${(ax + aw + bx) / 2}V${y2}H${bx}`;
        }
        if (bx + bw + 20 < ax) {
            return `M${ax},${y1}H${(bx + bw + ax) / 2}V${y2}H${bx + bw}`;
        }
        return `M${ax + aw},${y1}H${Math.max(ax + aw, bx + bw) + 26}V${y2}H${bx + bw}`;
    }

    guides(lines) {
        const layer = this.layer();
        const way = ({ axis, at, from, to }) => (axis === 0 ? `M${at},${from - 12}V${to + 12}` : `M${from - 12},${at}H${to + 12}`);
        layer.innerHTML = lines.map((line) => `<path class="guide" d="${way(line)}"></path>`).join('');
    }

    layer() {
        let layer = this.svg.querySelector('.over');
        if (!layer) {
            layer = document.createElementNS('http://www.w3.org/2000/svg', 'g');
            layer.setAttribute('class', 'over');
            this.svg.append(layer);
        }
        return layer;
    }

    band(event) {
        const [x1, y1] = this.held.band;
        const [x2, y2] = this.camera.at(event.clientX, event.clientY);
        const box = { x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) };
        this.held.box = box;
        this.layer().innerHTML = `<rect class="band" x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}"></rect>`;
    }

    size(dx, dy) {
        const { key, from } = this.held;
        const width = Math.max(60, Math.round((from.width + dx) / 10) * 10);
        const height = Math.max(60, Math.round((from.height + dy) / 10) * 10);
        this.held.size = [width, height];
        this.layer().innerHTML = `<rect class="band" x="${from.x}" y="${from.y}" width="${width}" height="${height}"></rect>`;
        this.sizing = key;
    }

    async drop() {
        const { held } = this;
        this.letGo();
        if (held?.band && held.box) {
            const { x, y, width, height } = held.box;
            this.choose(Object.keys(this.scene.pieces).filter((key) => {
                const box = this.rect(key);
                return within(box, { x, y, width, height });
            }), true);
        } else if (held?.sizing && held.size) {
            this.apply({ [held.key]: { ...this.pieces[held.key], width: held.size[0], height: held.size[1] } });
        } else if (held?.moved) {
            await this.settle(held);
        }
    }

    letGo() {
        this.held = null;
        this.frame.classList.remove('moving');
        this.svg.querySelector('.over')?.replaceChildren();
        if (this.later) {
            const waiting = this.later;
            this.later = null;
            this.taken(waiting);
        }
    }

    /** After pieces were moved: their lines are led anew, and where they stand is written. */
    async settle({ all }) {
        const moved = [...all];
        this.frame.setAttribute('aria-busy', 'true');
        try {
            await this.lead(moved);
        } finally {
            this.frame.removeAttribute('aria-busy');
        }
        const changes = {};
        for (const key of moved) {
            const [x, y] = this.scene.pieces[key];
            const piece = { ...this.pieces[key], x, y };
            delete piece.auto;
            changes[key] = piece;
        }
        this.note(changes);
        this.inset.draw(Object.values(this.scene.pieces));
        this.edits.send(changes, { ways: this.ways, draw: this.isOut(moved) });
    }

    /** Frames are not in each other's way, nor in that of what they hold. */
    async lead(moved) {
        this.scene.frames = Object.keys(this.pieces).filter((key) => this.pieces[key].kind === 'frame' && this.scene.pieces[key]).map((key) => {
            const box = this.rect(key);
            return [box.x, box.y, box.width, box.height];
        });
        const response = await fetch(this.root.dataset.lead, {
            method: 'POST',
            headers: { ...HEADERS, 'Content-Type': 'application/json' },
            body: JSON.stringify({ scene: this.scene, ways: this.ways, moved: moved.filter((key) => this.pieces[key]?.kind !== 'frame') }),
        });
        if (!response.ok) {
            this.told('The lines could not be led anew. They are when the page is loaded again.', 'bad');
            return;
        }
        const answer = await response.json();
        for (const [key, [x, y]] of Object.entries(answer.places)) {
            [this.scene.pieces[key][0], this.scene.pieces[key][1]] = [x, y];
            this.place(key);
        }
        for (const [id, { points, svg }] of Object.entries(answer.lines)) {
            this.ways[id] = points;
            const group = this.lines.get(Number(id));
            group?.classList.remove('loose');
            if (group) {
                group.innerHTML = svg;
            }
        }
        // A line that came back to where it was is not among the answers, but was drawn plainly while it moved.
        if ([...this.lines.values()].some((group) => group.classList.contains('loose'))) {
            await this.leadAll();
        }
    }

    async leadAll() {
        this.ways = {};
        const response = await fetch(this.root.dataset.lead, {
            method: 'POST', headers: { ...HEADERS, 'Content-Type': 'application/json' }, body: JSON.stringify({ scene: this.scene, ways: {}, moved: [] }),
        });
        for (const [id, { points, svg }] of Object.entries((await response.json()).lines)) {
            this.ways[id] = points;
            this.lines.get(Number(id))?.classList.remove('loose');
            this.lines.get(Number(id)).innerHTML = svg;
        }
    }

    /** Whether something stands where the drawing has no page yet. */
    isOut(keys) {
        const { x, y, width, height } = this.camera.box;
        return keys.some((key) => {
            const box = this.rect(key);
            return box.x < x + 20 || box.y < y + 20 || box.x + box.width > x + width - 20 || box.y + box.height > y + height - 120;
        });
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

    /** Moves pieces to places as one step. */
    async move(to) {
        const held = this.lift(Object.keys(to));
        this.loosen(held.loose);
        for (const [key, [x, y]] of Object.entries(to)) {
            [this.scene.pieces[key][0], this.scene.pieces[key][1]] = [x, y];
            this.place(key);
        }
        await this.settle({ all: new Set(Object.keys(to)) });
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
            const [key] = this.chosen;
            key.startsWith('n') ? this.write(key) : this.panel.tablet(key);
        } else if (!event.altKey) {
            const deed = this.root.querySelector(`[data-do][data-key="${CSS.escape(event.key)}"]`);
            if (deed && (!deed.hidden || deed.closest('[hidden]') === null)) {
                event.preventDefault();
                this.deed(deed.dataset.do);
            } else if (!arrows[event.key] || this.chosen.size === 0) {
                this.camera.key(event);
            }
        }
    }

    /** Moves by keys: the lines are led when the keys rest. */
    nudge([dx, dy], event) {
        const far = event.shiftKey ? 5 : 1;
        if (event.altKey && this.chosen.size === 1 && this.isNote()) {
            const [key] = this.chosen;
            const box = this.rect(key);
            this.apply({ [key]: { ...this.pieces[key], width: Math.max(60, box.width + dx * far), height: Math.max(60, box.height + dy * far) } });
            return;
        }
        if (!this.nudged) {
            this.nudged = this.lift([...this.chosen]);
            this.nudged.by = [0, 0];
            this.loosen(this.nudged.loose);
        }
        const [x, y] = this.nudged.by;
        this.shift(this.nudged, x + dx * far, y + dy * far);
        clearTimeout(this.rest);
        this.rest = setTimeout(() => {
            const held = this.nudged;
            this.nudged = null;
            this.settle(held);
        }, 350);
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

    deed(name) {
        const entries = this.tablets().map((key) => key.slice(1));
        const deeds = {
            fit: () => this.camera.fit(),
            find: () => this.panel.find(),
            add: () => this.panel.add(),
            leads: () => this.panel.leads(entries[0]),
            fields: () => this.panel.fields(entries),
            fold: () => this.fold(),
            remove: () => this.remove(),
            heading: () => this.put('heading'),
            note: () => this.put('note'),
            frame: () => this.put('frame'),
            arrange: () => this.panel.template('arrange'),
            align: () => this.panel.template('align'),
            export: () => this.panel.template('export'),
            about: () => this.panel.about(),
            write: () => this.write([...this.chosen][0]),
            line: () => this.nextLine(),
            query: () => this.panel.query(entries),
            undo: () => this.undo(),
            redo: () => this.undo(false),
            register: () => { location.href = this.root.dataset.register; },
            make: () => { location.href = `${this.root.dataset.new}?entries=${entries.join(',')}`; },
        };
        deeds[name]?.();
    }

    fold() {
        const keys = this.tablets().length > 0 ? this.tablets() : Object.keys(this.pieces).filter((key) => key.startsWith('t'));
        const open = keys.some((key) => !this.pieces[key].folded);
        const changes = {};
        for (const key of keys) {
            const piece = { ...this.pieces[key] };
            delete piece.folded;
            changes[key] = open ? { ...piece, folded: true } : piece;
        }
        this.apply(changes);
    }

    async remove() {
        const changes = Object.fromEntries([...this.chosen].map((key) => [key, null]));
        const count = Object.keys(changes).length;
        this.chosen.clear();
        await this.apply(changes);
        this.told(`${places(count, 'piece')} removed from the picture; the register has all of it as before.`, 'good');
    }

    async arrange(how) {
        const answer = await (await fetch(this.address(this.root.dataset.arrange, { how }), { headers: HEADERS })).json();
        if (answer.error) {
            this.told(answer.error, 'bad');
            return;
        }
        this.ways = {};
        const changes = Array.isArray(answer.changes) ? {} : answer.changes;
        await this.apply(changes);
        const count = Object.keys(changes).length;
        this.told(count === 0 ? 'Everything stands where it would be put.' : `${places(count, 'tablet')} arranged.`, 'good');
        this.camera.fit();
    }

    align(how) {
        const keys = [...this.chosen].filter((key) => this.scene.pieces[key]);
        if (keys.length > 1) {
            this.move(aligned(Object.fromEntries(keys.map((key) => { const b = this.rect(key); return [key, [b.x, b.y, b.width, b.height]]; })), how));
        }
    }

    /** Frames round the tablets of each subject area. */
    frames() {
        const changes = {};
        for (const [name, keys] of Object.entries(this.areas ?? {})) {
            const boxes = keys.filter((key) => this.scene.pieces[key]).map((key) => this.rect(key));
            if (boxes.length > 0) {
                changes[this.fresh()] = { kind: 'frame', text: name, ...this.around(boxes) };
            }
        }
        this.apply(changes);
    }

    around(boxes) {
        const x = Math.min(...boxes.map((box) => box.x)) - 30;
        const y = Math.min(...boxes.map((box) => box.y)) - 50;
        return {
            x, y,
            width: Math.max(...boxes.map((box) => box.x + box.width)) + 30 - x,
            height: Math.max(...boxes.map((box) => box.y + box.height)) + 30 - y,
        };
    }

    /** The place nearest to one where nothing stands. */
    free(x, y, [width, height]) {
        const taken = Object.values(this.scene.pieces);
        const open = (left, top) => taken.every(([bx, by, bw, bh]) => left + width + 20 < bx || bx + bw + 20 < left
            || top + height + 10 < by || by + bh + 10 < top);
        for (let ring = 0; ring < 60; ring += 1) {
            for (const [dx, dy] of [[0, -1], [0, 1], [-1, 0], [1, 0], [-1, -1], [1, 1], [-1, 1], [1, -1]]) {
                if (open(x + dx * ring * 40, y + dy * ring * 30)) {
                    return { x: x + dx * ring * 40, y: y + dy * ring * 30 };
                }
            }
        }
        return { x, y };
    }

    fresh() {
        return `n${Date.now().toString(36)}${Math.random().toString(36).slice(2, 6)}`;
    }

    put(kind) {
        const seen = this.camera.seen();
        const [x, y] = [Math.round((seen.x + seen.width / 2 - 120) / 10) * 10, Math.round((seen.y + seen.height / 3) / 10) * 10];
        const chosen = [...this.chosen].map((key) => this.rect(key));
        const box = kind === 'frame'
            ? (chosen.length > 0 ? this.around(chosen) : { x, y, width: 420, height: 300 })
            : { ...this.free(x, y, kind === 'heading' ? [300, 40] : [240, 110]), ...(kind === 'note' ? { width: 240 } : {}) };
        this.write(this.fresh(), { kind, text: '', ...box });
    }

    /** Writes on a note, in its place. What is typed is kept in the browser until it is saved. */
    write(key, made = null) {
        const piece = made ?? this.pieces[key];
        if (!piece?.kind || !this.writes) {
            return;
        }
        const box = made ? { x: made.x, y: made.y, width: made.width ?? 240, height: 60 } : this.rect(key);
        const area = document.createElement('textarea');
        const kept = `fasti:note:${this.root.dataset.id}:${made ? piece.kind : key}`;
        area.className = `form-control note-writing of-${piece.kind}`;
        area.setAttribute('aria-label', { heading: 'Heading', note: 'Note, in Markdown', frame: 'Title of the frame' }[piece.kind]);
        area.value = localStorage.getItem(kept) ?? piece.text;
        Object.assign(area.style, {
            left: `${box.x * this.camera.scale + this.camera.x}px`, top: `${box.y * this.camera.scale + this.camera.y}px`,
            width: `${Math.max(220, Math.min(box.width, 420) * this.camera.scale)}px`,
        });
        area.addEventListener('input', () => localStorage.setItem(kept, area.value));
        let over = false;
        const leave = (save) => {
            if (over) {
                return;
            }
            over = true;
            area.remove();
            this.frame.focus({ preventScroll: true });
            localStorage.removeItem(kept);
            const text = area.value.trim();
            if (save && text !== '' && text !== this.pieces[key]?.text) {
                this.apply({ [key]: { ...piece, text } }).then(() => this.choose([key]));
            }
        };
        area.addEventListener('keydown', (event) => {
            event.stopPropagation();
            if (event.key === 'Escape' || (event.key === 'Enter' && (piece.kind !== 'note' || event.ctrlKey))) {
                event.preventDefault();
                leave(true);
            }
        });
        area.addEventListener('blur', () => leave(true));
        this.frame.append(area);
        area.focus();
        area.select();
    }

    /** Adds entries; where they have no place yet, Fasti finds one beside what they join. */
    async addEntries(ids, place = null) {
        const keys = ids.map((id) => `t${id}`).filter((key) => !this.pieces[key]);
        const changes = Object.fromEntries(keys.map((key) => [key, place ? { x: place[0], y: place[1], drop: true } : {}]));
        await this.edits.send(changes, { ways: this.ways, draw: true });
        const step = Object.fromEntries(keys.filter((key) => this.pieces[key]).map((key) => [key, [null, clone(this.pieces[key])]]));
        if (Object.keys(step).length > 0) {
            this.edits.did(step);
        }
        this.choose(keys.filter((key) => this.scene.pieces[key]));
    }

    dropped(event) {
        const id = event.dataTransfer.getData('text/fasti-entry');
        if (id && this.writes) {
            event.preventDefault();
            this.addEntries([id], this.camera.at(event.clientX, event.clientY).map((value) => Math.round(value / 10) * 10));
        }
    }

    inside() {
        return Object.keys(this.pieces).filter((key) => key.startsWith('t')).map((key) => key.slice(1)).join(',');
    }

    async ask(url, more) {
        return html(this.address(url, more));
    }
}

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
