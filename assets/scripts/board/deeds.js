// What can be done on a diagram besides moving: fold, remove, arrange, align, frame, write, add.
import { HEADERS } from '../ask.js';
import { aligned } from './snap.js';
import { clone, places } from './words.js';

/** Methods of a Board. */
export const deeds = {
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
            ...Object.fromEntries(Object.keys(this.kinds).map((kind) => [`put ${kind}`, () => this.put(kind)])),
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
    },

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
    },

    async remove() {
        const changes = Object.fromEntries([...this.chosen].map((key) => [key, null]));
        const count = Object.keys(changes).length;
        this.chosen.clear();
        await this.apply(changes);
        this.told(`${places(count, 'piece')} removed from the picture; the register has all of it as before.`, 'good');
    },

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
    },

    align(how) {
        const keys = [...this.chosen].filter((key) => this.scene.pieces[key]);
        if (keys.length > 1) {
            this.move(aligned(Object.fromEntries(keys.map((key) => { const b = this.rect(key); return [key, [b.x, b.y, b.width, b.height]]; })), how));
        }
    },

    /** Frames round the tablets of each subject area. */
    frames() {
        const changes = {};
        const frame = Object.keys(this.kinds).find((kind) => this.kinds[kind].holds);
        for (const [name, keys] of Object.entries(this.areas ?? {})) {
            const boxes = keys.filter((key) => this.scene.pieces[key]).map((key) => this.rect(key));
            if (boxes.length > 0) {
                // One that frames the area already is drawn round what stands in it now.
                const there = Object.keys(this.pieces).find((key) => this.holds(key) && this.pieces[key].text === name);
                changes[there ?? this.fresh()] = { kind: frame, text: name, ...this.around(boxes) };
            }
        }
        this.apply(changes);
    },

    around(boxes) {
        const x = Math.min(...boxes.map((box) => box.x)) - 30;
        const y = Math.min(...boxes.map((box) => box.y)) - 50;
        return {
            x, y,
            width: Math.max(...boxes.map((box) => box.x + box.width)) + 30 - x,
            height: Math.max(...boxes.map((box) => box.y + box.height)) + 30 - y,
        };
    },

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
    },

    fresh() {
        return `n${Date.now().toString(36)}${Math.random().toString(36).slice(2, 6)}`;
    },

    put(kind) {
        const seen = this.camera.seen();
        const [x, y] = [Math.round((seen.x + seen.width / 2 - 120) / 10) * 10, Math.round((seen.y + seen.height / 3) / 10) * 10];
        const chosen = [...this.chosen].map((key) => this.rect(key));
        const { holds, room, made } = this.kinds[kind];
        const box = holds && chosen.length > 0 ? this.around(chosen) : { ...(holds ? { x, y } : this.free(x, y, room)), ...made };
        this.write(this.fresh(), { kind, text: '', ...box });
    },

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
        area.setAttribute('aria-label', this.kinds[piece.kind].writing);
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
            if (event.key === 'Escape' || (event.key === 'Enter' && (!this.kinds[piece.kind].long || event.ctrlKey))) {
                event.preventDefault();
                leave(true);
            }
        });
        area.addEventListener('blur', () => leave(true));
        this.frame.append(area);
        area.focus();
        area.select();
    },

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
    },

    dropped(event) {
        const id = event.dataTransfer.getData('text/fasti-entry');
        if (id && this.writes) {
            event.preventDefault();
            this.addEntries([id], this.camera.at(event.clientX, event.clientY).map((value) => Math.round(value / 10) * 10));
        }
    },
};
