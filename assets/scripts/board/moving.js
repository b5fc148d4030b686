// How pieces of a diagram are moved: by pointer and by keys, with the lines that follow, until the server has led them anew.
import { snapped } from './snap.js';

/** Methods of a Board. */
export const moving = {
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
        if (this.holds(key) && event.target.classList.contains('frame')) {
            return false;
        }
        if (event.ctrlKey || event.metaKey || event.shiftKey) {
            if (this.chosen.has(key)) {
                this.chosen.delete(key);
            } else {
                this.chosen.add(key);
            }
            this.chose();
            return true;
        }
        if (!this.chosen.has(key)) {
            this.choose([key]);
        }
        const sizing = event.target.classList.contains('grip');
        this.held = { key, sizing, x: event.clientX, y: event.clientY, moved: false, ...(sizing ? { from: this.rect(key) } : this.lift([...this.chosen])) };
        return true;
    },

    /** Gets pieces ready to be moved: which others go with them, and the lines that follow. */
    lift(keys) {
        const all = new Set(keys);
        keys.forEach((key) => this.heldBy(key).forEach((other) => all.add(other)));
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
    },

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
    },

    /** While pieces move, their lines are drawn in the plainest way. */
    loosen(lines) {
        for (const line of lines) {
            const group = this.lines.get(line.id);
            if (!group.classList.contains('loose')) {
                this.drawn.set(line.id, group.innerHTML);
            }
            group.classList.add('loose');
            group.innerHTML = '<path></path>';
        }
    },

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
    },

    place(key) {
        const [x, y] = this.scene.pieces[key];
        const [ownX, ownY] = this.drawnAt[key];
        this.elements.get(key)?.setAttribute('transform', `translate(${x - ownX},${y - ownY})`);
    },

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
    },

    guides(lines) {
        const layer = this.layer();
        const way = ({ axis, at, from, to }) => (axis === 0 ? `M${at},${from - 12}V${to + 12}` : `M${from - 12},${at}H${to + 12}`);
        layer.innerHTML = lines.map((line) => `<path class="guide" d="${way(line)}"></path>`).join('');
    },

    layer() {
        let layer = this.svg.querySelector('.over');
        if (!layer) {
            layer = document.createElementNS('http://www.w3.org/2000/svg', 'g');
            layer.setAttribute('class', 'over');
            this.svg.append(layer);
        }
        return layer;
    },

    band(event) {
        const [x1, y1] = this.held.band;
        const [x2, y2] = this.camera.at(event.clientX, event.clientY);
        const box = { x: Math.min(x1, x2), y: Math.min(y1, y2), width: Math.abs(x2 - x1), height: Math.abs(y2 - y1) };
        this.held.box = box;
        this.layer().innerHTML = `<rect class="band" x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}"></rect>`;
    },

    size(dx, dy) {
        const { key, from } = this.held;
        const width = Math.max(60, Math.round((from.width + dx) / 10) * 10);
        const height = Math.max(60, Math.round((from.height + dy) / 10) * 10);
        this.held.size = [width, height];
        this.layer().innerHTML = `<rect class="band" x="${from.x}" y="${from.y}" width="${width}" height="${height}"></rect>`;
        this.sizing = key;
    },

};
