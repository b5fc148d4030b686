// What part of a drawing is seen: moved by pointer, wheel and keys, without the drawing being made anew.
export class Camera {
    constructor(frame, changed = () => {}) {
        this.frame = frame;
        this.changed = changed;
        this.x = 0;
        this.y = 0;
        this.scale = 1;
        this.least = 0.02;
        this.measure();
        window.addEventListener('resize', () => this.measure());
        frame.addEventListener('wheel', (event) => {
            event.preventDefault();
            const box = frame.getBoundingClientRect();
            this.zoom(Math.exp(-event.deltaY / (event.ctrlKey ? 120 : 480)), event.clientX - box.left, event.clientY - box.top);
        }, { passive: false });
        frame.addEventListener('dragstart', (event) => event.preventDefault());
    }

    /** The size of the frame is kept: to ask for it while the drawing changes would have the browser lay all of it out first. */
    measure() {
        [this.width, this.height] = [this.frame.clientWidth, this.frame.clientHeight];
    }

    /** Takes a drawing; `stay` keeps what is seen where it is, though the new drawing begins elsewhere. */
    take(svg, stay = false) {
        this.svg = svg;
        this.measure();
        const { x, y, width, height } = svg.viewBox.baseVal;
        this.box = { x, y, width, height };
        if (stay) {
            this.show();
        } else {
            this.fit();
        }
    }

    show() {
        const { x, y } = this.box;
        this.svg.style.transform = `translate(${this.x + x * this.scale}px, ${this.y + y * this.scale}px) scale(${this.scale})`;
        this.changed(this);
    }

    fit(box = this.box, most = 1.25) {
        const { width, height } = this;
        this.scale = Math.max(this.least, Math.min(most, width / box.width, height / box.height));
        this.x = (width - box.width * this.scale) / 2 - box.x * this.scale;
        this.y = Math.max(0, (height - box.height * this.scale) / 2) - box.y * this.scale;
        this.show();
    }

    zoom(factor, cx = this.width / 2, cy = this.height / 2) {
        const next = Math.min(4, Math.max(this.least, this.scale * factor));
        this.x = cx - (cx - this.x) * next / this.scale;
        this.y = cy - (cy - this.y) * next / this.scale;
        this.scale = next;
        this.show();
    }

    pan(dx, dy) {
        this.x += dx;
        this.y += dy;
        this.show();
    }

    /** The place in the drawing under a point of the window. */
    at(clientX, clientY) {
        const box = this.frame.getBoundingClientRect();
        return [(clientX - box.left - this.x) / this.scale, (clientY - box.top - this.y) / this.scale];
    }

    /** What is seen, in the drawing's own measure. */
    seen() {
        return { x: -this.x / this.scale, y: -this.y / this.scale, width: this.width / this.scale, height: this.height / this.scale };
    }

    /** Moves a rectangle into sight, if it is not there. */
    bring({ x, y, width, height }) {
        const seen = this.seen();
        const off = (at, size, from, length) => {
            const edge = Math.min(30, length / 10);
            if (size > length - 2 * edge || at < from + edge) {
                return at < from + edge || size > length ? from + edge - at : 0;
            }
            return Math.min(0, from + length - edge - at - size);
        };
        const [dx, dy] = [off(x, width, seen.x, seen.width), off(y, height, seen.y, seen.height)];
        if (dx !== 0 || dy !== 0) {
            this.pan(dx * this.scale, dy * this.scale);
        }
    }

    /** The keys that move what is seen; says whether it was one of them. */
    key(event) {
        const steps = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] };
        if (steps[event.key]) {
            this.pan(...steps[event.key]);
        } else if (event.key === '+' || event.key === '=') {
            this.zoom(1.25);
        } else if (event.key === '-') {
            this.zoom(0.8);
        } else if (event.key === 'f' || event.key === '0') {
            this.fit();
        } else {
            return false;
        }
        event.preventDefault();
        return true;
    }

    /** Lets the background be dragged; `starts` may take a pointer for itself by returning true. */
    dragged(starts = () => false) {
        let held = null;
        this.frame.addEventListener('pointerdown', (event) => {
            if (event.button === 0 && !starts(event)) {
                held = { x: event.clientX, y: event.clientY, fromX: event.clientX, fromY: event.clientY, moved: false };
            }
        });
        window.addEventListener('pointermove', (event) => {
            if (!held || (!held.moved && Math.hypot(event.clientX - held.fromX, event.clientY - held.fromY) < 4)) {
                return;
            }
            held.moved = true;
            this.frame.classList.add('moving');
            this.pan(event.clientX - held.x, event.clientY - held.y);
            [held.x, held.y] = [event.clientX, event.clientY];
        });
        const end = () => {
            if (held?.moved) {
                // The click that ends a drag must not follow the link under the pointer.
                this.frame.addEventListener('click', (event) => { event.preventDefault(); event.stopPropagation(); }, { capture: true, once: true });
                setTimeout(() => this.frame.classList.remove('moving'));
            }
            held = null;
        };
        window.addEventListener('pointerup', end);
        window.addEventListener('pointercancel', end);
    }
}

/** A small copy of a large drawing, with a frame round what is seen; a click goes there. */
export class Inset {
    constructor(element, camera) {
        this.element = element;
        this.camera = camera;
        element.addEventListener('pointerdown', (event) => { this.go(event); element.setPointerCapture(event.pointerId); });
        element.addEventListener('pointermove', (event) => { if (event.buttons === 1) { this.go(event); } });
    }

    draw(rects) {
        const { x, y, width, height } = this.camera.box;
        this.element.innerHTML = `<svg viewBox="${x} ${y} ${width} ${height}" aria-hidden="true">${rects.map(([rx, ry, rw, rh]) =>
            `<rect x="${rx}" y="${ry}" width="${rw}" height="${rh}"></rect>`).join('')}<rect class="seen"></rect></svg>`;
        this.follow();
    }

    follow() {
        const seen = this.element.querySelector('.seen');
        const at = this.camera.seen();
        const box = this.camera.box;
        this.element.hidden = at.width >= box.width && at.height >= box.height;
        for (const [name, value] of Object.entries(at)) {
            seen?.setAttribute(name, value);
        }
    }

    go(event) {
        const svg = this.element.querySelector('svg');
        const point = new DOMPoint(event.clientX, event.clientY).matrixTransform(svg.getScreenCTM().inverse());
        this.camera.x = this.camera.width / 2 - point.x * this.camera.scale;
        this.camera.y = this.camera.height / 2 - point.y * this.camera.scale;
        this.camera.show();
    }
}

/** The lines of what is pointed at stand out, and what they lead to; the rest steps back. */
export function pointing(svg) {
    const ends = new Map();
    svg.querySelectorAll('.line[data-join]').forEach((line) => {
        for (const id of [line.dataset.from, line.dataset.to]) {
            ends.set(id, [...(ends.get(id) ?? []), line]);
        }
    });
    const tablets = new Map([...svg.querySelectorAll('.tablet')].map((tablet) => [tablet.dataset.entry, tablet]));
    let near = [];
    const show = (lines, ids) => {
        near.forEach((each) => each.classList.remove('near'));
        near = [...lines, ...ids.map((id) => tablets.get(id)).filter(Boolean)];
        near.forEach((each) => each.classList.add('near'));
        svg.classList.toggle('pointed', lines.length > 0);
    };
    const at = (target) => {
        const line = target?.closest?.('.line[data-join]');
        const tablet = target?.closest?.('.tablet');
        if (line) {
            show([line], [line.dataset.from, line.dataset.to]);
        } else if (tablet) {
            const lines = ends.get(tablet.dataset.entry) ?? [];
            show(lines, [tablet.dataset.entry, ...lines.flatMap((each) => [each.dataset.from, each.dataset.to])]);
        } else {
            show([], []);
        }
    };
    svg.addEventListener('pointerover', (event) => at(event.target));
    svg.addEventListener('pointerleave', () => at(null));
    svg.addEventListener('focusin', (event) => at(event.target));
    return at;
}
