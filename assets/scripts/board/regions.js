// What a map draws: regions, the names in them, and what is in the entries, each when one is near enough to read it.
import { HEADERS } from '../ask.js';

const SVG = 'http://www.w3.org/2000/svg';
export const make = (name, attributes = {}, text = null) => {
    const element = document.createElementNS(SVG, name);
    Object.entries(attributes).forEach(([key, value]) => element.setAttribute(key, value));
    if (text !== null) {
        element.textContent = text;
    }
    return element;
};

/** A name in up to three lines. */
function folded(name, most) {
    const lines = [''];
    for (const word of name.split(/\s+/)) {
        const last = lines[lines.length - 1];
        if (last === '' || last.length + word.length < most) {
            lines[lines.length - 1] = `${last} ${word}`.trim();
        } else {
            lines.push(word);
        }
    }
    const cut = lines.slice(0, 3).map((line) => (line.length > most ? `${line.slice(0, most - 1)}…` : line));
    if (lines.length > 3) {
        cut[2] = `${cut[2].slice(0, most - 1)}…`;
    }
    return cut;
}


export const regions = {
    draw() {
        const boxes = this.state.regions.map((region) => region.box);
        const right = Math.max(1, ...boxes.map(([x, , w]) => x + w));
        const bottom = Math.max(1, ...boxes.map(([, y, , h]) => y + h));
        this.svg = make('svg', { class: 'diagram region-map', width: '100%', height: '100%', viewBox: `-60 -60 ${right + 120} ${bottom + 120}` });
        const world = make('g');
        this.svg.append(world);
        const fitted = Math.min(this.frame.clientWidth / (right + 120), this.frame.clientHeight / (bottom + 120));
        for (const [a, b, count] of this.state.between) {
            const [[ax, ay, aw, ah], [bx, by, bw, bh]] = [boxes[a], boxes[b]];
            const line = make('path', { class: 'between', d: `M${ax + aw / 2},${ay + ah / 2}L${bx + bw / 2},${by + bh / 2}` });
            line.style.strokeWidth = `${Math.min(16, 0.6 + 1.3 * Math.sqrt(count))}px`;
            line.dataset.ends = `${a} ${b}`;
            line.append(make('title', {}, `${this.state.regions[a].name} and ${this.state.regions[b].name}: ${count} ${count === 1 ? 'join' : 'joins'}`));
            world.append(line);
        }
        // The names that are read from afar stand in a group of their own: when they change their size, nothing else has to be looked at.
        this.fars = make('g', { class: 'fars' });
        this.groups = this.state.regions.map((region, index) => {
            const [x, y, width, height] = region.box;
            const group = make('g', { class: `region${region.proposed ? ' proposed' : ''}`, 'data-index': index });
            const lines = folded(region.name, Math.max(5, Math.floor((width * fitted - 8) / 7)));
            const far = make('text', { class: 'far name', x: x + width / 2, y: y + height / 2, 'text-anchor': 'middle' });
            lines.forEach((line, i) => far.append(make('tspan', { x: x + width / 2, dy: i === 0 ? `${-0.6 * lines.length + 0.35}em` : '1.15em' }, line)));
            group.append(
                make('rect', { class: 'ground', x, y, width, height }),
                make('text', { class: 'near name', x: x + 50, y: y + 46 }, region.name),
                make('g', { class: 'inside' }),
                make('title', {}, `${region.name}: ${region.words}`),
            );
            this.fars.append(
                far,
                make('text', { class: 'far count', x: x + width / 2, y: y + height / 2, 'text-anchor': 'middle', dy: `${0.62 * lines.length + 0.75}em` },
                    String(this.members[index].length)),
            );
            world.append(group);
            return group;
        });
        world.append(this.fars);
        this.details = new Map();
        this.frame.prepend(this.svg);
    },

    /** Fills the regions that are seen: names at once, what is in the entries as soon as the server has said it. */
    fill(level) {
        const seen = this.camera.seen();
        this.state.regions.forEach((region, index) => {
            const [x, y, width, height] = region.box;
            const group = this.groups[index];
            const across = Math.min(x + width, seen.x + seen.width) - Math.max(x, seen.x);
            const down = Math.min(y + height, seen.y + seen.height) - Math.max(y, seen.y);
            // While names are shown, of a region at the edge its own name is enough: many names take long to set.
            const out = across <= 0 || down <= 0 || (level === 'names' && across * down < 0.3 * Math.min(width * height, seen.width * seen.height));
            group.classList.toggle('out', out);
            if (out) {
                return;
            }
            if (!group.dataset.named) {
                group.dataset.named = '1';
                // What is in the middle comes first; what stands at the edges may follow.
                const [cx, cy] = [seen.x + seen.width / 2, seen.y + seen.height / 2];
                const middle = x <= cx && cx <= x + width && y <= cy && cy <= y + height;
                if (middle) {
                    this.name(group, index);
                } else {
                    setTimeout(() => this.name(group, index), 60);
                }
            }
            const wide = width > seen.width / 3;
            if (!group.dataset.asked && (level !== 'names' || wide)) {
                // Whoever comes so near is likely to come nearer.
                group.dataset.asked = '1';
                setTimeout(() => this.ask(group, index), level === 'names' ? 120 : 0);
            } else if (level !== 'names') {
                this.detail(group, index);
            }
        });
    },

    /** Puts what is known of a region into the drawing; there it is only while it can be read. */
    detail(group, index) {
        const known = this.details.get(index);
        if (known && !group.classList.contains('detailed')) {
            const inside = make('g', { class: 'of-details' });
            inside.innerHTML = known;
            group.querySelector('.inside').append(inside);
            group.classList.add('detailed');
        }
    },

    strip() {
        this.svg.querySelectorAll('.region.detailed').forEach((group) => {
            group.querySelector('.of-details').remove();
            group.classList.remove('detailed');
        });
    },

    /** The names in a region, so many at a time that each frame is drawn in time. */
    name(group, index, from = 0) {
        const names = make('g', { class: 'of-names' });
        const until = from + 50;
        if (until < this.members[index].length) {
            setTimeout(() => this.name(group, index, until), 30);
        }
        for (const id of this.members[index].slice(from, until)) {
            const [, x, y, width, height, title] = this.state.tablets[id];
            const link = make('a', { href: this.root.dataset.entry.replace(/\/0$/, `/${id}`), 'data-entry': id, 'aria-label': title });
            const words = title.split(/\s+/);
            const longest = Math.max(...words.map((word) => word.length));
            const size = Math.max(13, Math.min(38, (width - 20) / (longest * 0.56), (height - 10) / (words.length * 1.15)));
            link.append(make('rect', { class: 'slab', x, y, width, height }));
            const top = y + height / 2 - (words.length - 1) * size * 0.56 + size * 0.34;
            const text = make('text', { class: 'title', x: x + width / 2, y: top, 'text-anchor': 'middle' });
            text.style.fontSize = `${size}px`;
            const most = Math.max(3, Math.floor((width - 12) / (size * 0.56)));
            words.slice(0, 4).forEach((word, i) => {
                const cut = word.length > most ? `${word.slice(0, most - 1)}…` : word;
                text.append(make('tspan', { x: x + width / 2, dy: i === 0 ? 0 : `${size * 1.12}` }, cut));
            });
            link.append(text);
            names.append(link);
        }
        group.querySelector('.inside').append(names);
    },

    async ask(group, index) {
        const places = Object.fromEntries(this.members[index].map((id) => [id, this.state.tablets[id].slice(1, 5)]));
        try {
            const response = await fetch(this.root.dataset.region, {
                method: 'POST', headers: { ...HEADERS, 'Content-Type': 'application/json' }, body: JSON.stringify(places),
            });
            if (!response.ok) {
                throw new Error(String(response.status));
            }
            this.details.set(index, await response.text());
            if (this.level === 'keys' || this.level === 'fields') {
                this.detail(group, index);
            }
        } catch {
            delete group.dataset.asked;
            this.say('The fields of this region could not be read; come nearer again to ask anew.');
        }
    },
};
