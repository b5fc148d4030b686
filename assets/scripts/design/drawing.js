// The drawing of a design: moved about, its tablets put elsewhere, its pieces chosen.
const SVG = 'http://www.w3.org/2000/svg';

export class Drawing {
    constructor(root, { choose, moved, depth, connect }) {
        this.root = root;
        this.canvas = root.querySelector('[data-canvas]');
        this.tell = { choose, moved, depth, connect };
        this.at = { x: 0, y: 0, scale: 1 };
        this.fitted = false;
        this.chosen = null;
        this.canvas.addEventListener('wheel', (event) => this.wheel(event), { passive: false });
        this.canvas.addEventListener('pointerdown', (event) => this.down(event));
        root.addEventListener('keydown', (event) => this.key(event));
    }

    get svg() { return this.canvas.querySelector('svg'); }

    show(svg) {
        const parsed = new DOMParser().parseFromString(svg, 'image/svg+xml').documentElement;
        const old = this.svg;
        const box = old?.viewBox.baseVal;
        const before = box ? [box.x, box.y] : null;
        this.canvas.replaceChildren(document.importNode(parsed, true));
        const now = this.svg.viewBox.baseVal;
        if (this.fitted && before) {
            // What stood still stays where it is seen.
            this.at.x += (now.x - before[0]) * this.at.scale;
            this.at.y += (now.y - before[1]) * this.at.scale;
            this.apply();
        } else {
            this.fit();
        }
        this.make();
    }

    /** Tablets and lines can be reached by keyboard. */
    make() {
        for (const group of this.canvas.querySelectorAll('.tablet[data-entry], .line[data-join]')) {
            group.setAttribute('tabindex', '-1');
        }
        this.mark();
    }

    mark() {
        for (const group of this.canvas.querySelectorAll('.chosen')) {
            group.classList.remove('chosen');
        }
        if (this.chosen) {
            this.canvas.querySelector(this.chosen)?.classList.add('chosen');
        }
    }

    fit() {
        const svg = this.svg;
        if (!svg) {
            return;
        }
        const box = svg.viewBox.baseVal;
        const { clientWidth: width, clientHeight: height } = this.canvas;
        const scale = Math.min(1, width / box.width, height / box.height) || 1;
        this.at = { scale, x: Math.max(0, (width - box.width * scale) / 2), y: Math.max(0, (height - box.height * scale) * 0.36) };
        this.fitted = true;
        this.apply();
    }

    apply() {
        if (this.svg) {
            this.svg.style.transform = `translate(${this.at.x}px, ${this.at.y}px) scale(${this.at.scale})`;
        }
    }

    wheel(event) {
        event.preventDefault();
        const rect = this.canvas.getBoundingClientRect();
        if (event.ctrlKey || event.metaKey) {
            const factor = Math.exp(-event.deltaY * 0.01);
            const scale = Math.max(0.08, Math.min(2.5, this.at.scale * factor));
            const [x, y] = [event.clientX - rect.left, event.clientY - rect.top];
            this.at.x = x - (x - this.at.x) * (scale / this.at.scale);
            this.at.y = y - (y - this.at.y) * (scale / this.at.scale);
            this.at.scale = scale;
        } else {
            this.at.x -= event.deltaX;
            this.at.y -= event.deltaY;
        }
        this.apply();
    }

    down(event) {
        if (event.button !== 0) {
            return;
        }
        const tablet = event.target.closest('.tablet[data-entry]');
        const line = event.target.closest('.line[data-join]');
        const start = { x: event.clientX, y: event.clientY, ax: this.at.x, ay: this.at.y };
        let far = false;
        // With Shift a line is led from one tablet to another.
        const lead = tablet && event.shiftKey ? this.svg.appendChild(document.createElementNS(SVG, 'line')) : null;
        lead?.setAttribute('class', 'leading');
        const at = (to) => new DOMPoint(to.clientX, to.clientY).matrixTransform(this.svg.getScreenCTM().inverse());
        const move = (to) => {
            const [dx, dy] = [to.clientX - start.x, to.clientY - start.y];
            far = far || Math.hypot(dx, dy) > 4;
            if (!far) {
                return;
            }
            if (lead) {
                const [one, other] = [at(event), at(to)];
                for (const [name, value] of Object.entries({ x1: one.x, y1: one.y, x2: other.x, y2: other.y })) {
                    lead.setAttribute(name, value);
                }
            } else if (tablet) {
                tablet.setAttribute('transform', `translate(${dx / this.at.scale},${dy / this.at.scale})`);
            } else {
                this.at.x = start.ax + dx;
                this.at.y = start.ay + dy;
                this.apply();
            }
        };
        const up = (to) => {
            window.removeEventListener('pointermove', move);
            window.removeEventListener('pointerup', up);
            this.canvas.classList.remove('moving');
            lead?.remove();
            if (far && lead) {
                const other = document.elementFromPoint(to.clientX, to.clientY)?.closest('.tablet[data-entry]');
                if (other) {
                    this.tell.connect(Number(tablet.dataset.entry), Number(other.dataset.entry));
                }
            } else if (far && tablet) {
                this.tell.moved(Number(tablet.dataset.entry), (to.clientX - start.x) / this.at.scale, (to.clientY - start.y) / this.at.scale);
            } else if (!far) {
                this.pick(tablet, line, event.target.closest('[data-field]')?.dataset.field ?? '');
            }
        };
        this.canvas.classList.add('moving');
        window.addEventListener('pointermove', move);
        window.addEventListener('pointerup', up);
    }

    pick(tablet, line, field) {
        if (tablet) {
            this.chosen = `.tablet[data-entry="${tablet.dataset.entry}"]`;
            this.tell.choose({ tablet: Number(tablet.dataset.entry), field });
        } else if (line) {
            this.chosen = `.line[data-join="${line.dataset.join}"]`;
            this.tell.choose({ line: Number(line.dataset.join) });
        } else {
            this.chosen = null;
            this.tell.choose({});
        }
        this.mark();
    }

    key(event) {
        if (event.target.closest('input, textarea, select, button, form') || event.ctrlKey || event.metaKey || event.altKey) {
            return;
        }
        const depth = { 1: 'conceptual', 2: 'logical', 3: 'physical' }[event.key];
        const step = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] }[event.key];
        if (depth) {
            this.tell.depth(depth);
        } else if (event.key === '0') {
            this.fit();
        } else if (event.key === 'j' || event.key === 'k') {
            this.next(event.key === 'j' ? 1 : -1);
        } else if (step) {
            this.at.x += step[0];
            this.at.y += step[1];
            this.apply();
        } else {
            return;
        }
        event.preventDefault();
    }

    next(by) {
        const all = [...this.canvas.querySelectorAll('.tablet[data-entry]')];
        const now = all.findIndex((one) => this.chosen === `.tablet[data-entry="${one.dataset.entry}"]`);
        const tablet = all[(now + by + all.length) % all.length];
        if (tablet) {
            this.pick(tablet, null, '');
        }
    }
}

export { SVG };
