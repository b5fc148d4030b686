// Pieces are set down: what they stand on moves beside them, lines are led again, and it is saved.
import { HEADERS } from '../ask.js';
import { within } from './words.js';

export const settingDown = {
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
    },

    letGo() {
        this.held = null;
        this.frame.classList.remove('moving');
        this.svg.querySelector('.over')?.replaceChildren();
        if (this.later) {
            const waiting = this.later;
            this.later = null;
            this.taken(waiting);
        }
    },

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
    },

    /** Frames are not in each other's way, nor in that of what they hold. */
    async lead(moved) {
        this.scene.frames = Object.keys(this.pieces).filter((key) => this.holds(key) && this.scene.pieces[key]).map((key) => {
            const box = this.rect(key);
            return [box.x, box.y, box.width, box.height];
        });
        const response = await fetch(this.root.dataset.lead, {
            method: 'POST',
            headers: { ...HEADERS, 'Content-Type': 'application/json' },
            body: JSON.stringify({ scene: this.scene, ways: this.ways, moved: moved.filter((key) => !this.holds(key)) }),
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
        this.lines.forEach((group, id) => {
            if (group.classList.contains('loose') && this.drawn.has(id)) {
                group.classList.remove('loose');
                group.innerHTML = this.drawn.get(id);
            }
        });
        this.drawn.clear();
    },

    /** Whether something stands where the drawing has no page yet. */
    isOut(keys) {
        const { x, y, width, height } = this.camera.box;
        return keys.some((key) => {
            const box = this.rect(key);
            return box.x < x + 20 || box.y < y + 20 || box.x + box.width > x + width - 20 || box.y + box.height > y + height - 120;
        });
    },

    /** Moves pieces to places as one step. */
    async move(to) {
        const held = this.lift(Object.keys(to));
        this.loosen(held.loose);
        for (const [key, [x, y]] of Object.entries(to)) {
            [this.scene.pieces[key][0], this.scene.pieces[key][1]] = [x, y];
            this.place(key);
        }
        await this.settle({ all: new Set(Object.keys(to)) });
    },

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
    },
};
