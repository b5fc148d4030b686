// A large schema as a map: regions first; going nearer, the entries in them by name, then their keys, then all their fields.
import { HEADERS, inText } from '../ask.js';
import { Camera, Inset } from './camera.js';

const SVG = 'http://www.w3.org/2000/svg';
/** From which scale on what is shown. */
const LEVELS = [['fields', 1.15], ['keys', 0.5], ['names', 0.11], ['regions', 0]];

const make = (name, attributes = {}, text = null) => {
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

/** The camera of a map moves what is drawn, not the page that it is drawn on, which would be too large. */
class MapCamera extends Camera {
    show() {
        this.svg.firstChild.setAttribute('transform', `translate(${this.x},${this.y}) scale(${this.scale})`);
        this.changed(this);
    }
}

export class RegionMap {
    constructor(root) {
        this.root = root;
        this.frame = root.querySelector('[data-map]');
        this.margin = root.querySelector('.board-margin');
        this.state = JSON.parse(root.querySelector('[data-state]').textContent);
        this.members = this.state.regions.map(() => []);
        for (const [id, [region]] of Object.entries(this.state.tablets)) {
            this.members[region].push(id);
        }
        this.draw();
        this.camera = new MapCamera(this.frame, () => this.moved());
        this.camera.least = 0.005;
        this.inset = new Inset(root.querySelector('.inset'), this.camera);
        this.camera.take(this.svg);
        // From here on the camera says what is seen; the drawing is not to be fitted once more.
        this.svg.removeAttribute('viewBox');
        this.inset.draw(this.state.regions.map((region) => region.box));
        this.camera.dragged();
        this.frame.addEventListener('click', (event) => this.click(event));
        document.addEventListener('click', (event) => this.hit(event), true);
        window.addEventListener('resize', () => this.camera.show());
        this.at = -1;
        if (this.state.go && this.state.tablets[this.state.go]) {
            this.go(this.state.go);
        }
    }

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
    }

    moved() {
        const { scale } = this.camera;
        const level = LEVELS.find(([, from]) => scale >= from)[0];
        if (level !== this.level) {
            this.svg.setAttribute('class', `diagram region-map at-${level}`);
            this.level = level;
            if (level === 'names' || level === 'regions') {
                this.strip();
            }
        }
        if (level === 'regions') {
            this.fars.style.setProperty('--far', `${13.5 / scale}px`);
            this.fars.style.setProperty('--count', `${11.5 / scale}px`);
        }
        this.inset?.follow();
        if (level !== 'regions') {
            this.fill(level);
        }
    }

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
    }

    /** Puts what is known of a region into the drawing; there it is only while it can be read. */
    detail(group, index) {
        const known = this.details.get(index);
        if (known && !group.classList.contains('detailed')) {
            const inside = make('g', { class: 'of-details' });
            inside.innerHTML = known;
            group.querySelector('.inside').append(inside);
            group.classList.add('detailed');
        }
    }

    strip() {
        this.svg.querySelectorAll('.region.detailed').forEach((group) => {
            group.querySelector('.of-details').remove();
            group.classList.remove('detailed');
        });
    }

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
    }

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
    }

    say(words) {
        this.root.querySelector('[data-aloud]').textContent = words;
        this.root.querySelector('.where').textContent = words;
    }

    /** Goes into a region. */
    into(index = this.at) {
        if (index < 0) {
            return;
        }
        this.at = index;
        const [x, y, width, height] = this.state.regions[index].box;
        this.camera.fit({ x, y, width, height }, 1);
        this.mark(index);
    }

    mark(index) {
        this.at = index;
        this.groups.forEach((group, each) => group.classList.toggle('now', each === index));
        this.svg.querySelectorAll('.between').forEach((line) => line.classList.toggle('near', line.dataset.ends.split(' ').includes(String(index))));
        const region = this.state.regions[index];
        this.say(region ? `${region.name}, ${region.words}` : '');
    }

    /** Goes to an entry. */
    go(id) {
        const [region, x, y, width, height, title] = this.state.tablets[id];
        this.mark(region);
        this.camera.fit({ x: x - 300, y: y - 200, width: width + 600, height: height + 400 }, 1.2);
        this.svg.querySelectorAll('.found-here').forEach((each) => each.remove());
        this.svg.firstChild.append(make('rect', { class: 'found-here', x: x - 5, y: y - 5, width: width + 10, height: height + 10 }));
        this.say(`${title}, in ${this.state.regions[region].name}`);
    }

    click(event) {
        const region = event.target.closest('.region');
        if (region && !event.target.closest('a')) {
            if (this.level === 'regions') {
                this.into(Number(region.dataset.index));
            } else {
                this.mark(Number(region.dataset.index));
            }
        }
    }

    /** What the search of the register finds is shown here, if it is here. */
    hit(event) {
        const id = event.target.closest('[data-hit]')?.getAttribute('href')?.match(/\/register\/(\d+)/)?.[1];
        if (id && this.state.tablets[id]) {
            event.preventDefault();
            event.stopPropagation();
            document.querySelector('.found').style.display = 'none';
            this.go(id);
            this.frame.focus({ preventScroll: true });
        }
    }

    find() {
        this.margin.innerHTML = this.root.querySelector('template[data-panel=find]').innerHTML;
        this.margin.hidden = false;
        const input = this.margin.querySelector('input');
        const rows = this.margin.querySelector('ul');
        const list = () => {
            const words = input.value.trim().toLowerCase();
            const late = (tablet) => Number(!tablet[5].toLowerCase().startsWith(words));
            const found = words === '' ? [] : Object.entries(this.state.tablets).filter(([, tablet]) => tablet[5].toLowerCase().includes(words))
                .sort(([, a], [, b]) => late(a) - late(b) || a[5].length - b[5].length);
            rows.replaceChildren(...found.slice(0, 30).map(([id, tablet]) => {
                const item = document.createElement('li');
                const button = document.createElement('button');
                Object.assign(button, { type: 'button', className: 'link', textContent: tablet[5] });
                button.addEventListener('click', () => { this.shut(); this.go(id); });
                const where = Object.assign(document.createElement('span'), { className: 'under', textContent: this.state.regions[tablet[0]].name });
                item.append(button, where);
                return item;
            }));
        };
        input.addEventListener('input', list);
        input.addEventListener('keydown', (event) => {
            if (event.key === 'Enter') {
                rows.querySelector('button')?.click();
            } else if (event.key === 'Escape') {
                this.shut();
            }
        });
        input.focus();
    }

    shut() {
        this.margin.hidden = true;
        this.frame.focus({ preventScroll: true });
    }

    deed(name) {
        ({
            find: () => this.find(),
            fit: () => this.camera.fit(),
            into: () => this.into(),
            make: () => {
                if (this.at < 0) {
                    this.say('Choose a region first.');
                } else {
                    location.href = `${this.root.dataset.new}?entries=${this.members[this.at].slice(0, 300).join(',')}`;
                }
            },
        })[name]?.();
    }

    key(event) {
        if (inText(event.target) || event.ctrlKey || event.metaKey || event.altKey || document.querySelector('dialog[open]')) {
            return;
        }
        const count = this.state.regions.length;
        if (event.key === 'j' || event.key === 'k') {
            const first = event.key === 'j' ? 0 : count - 1;
            const next = this.at < 0 ? first : (this.at + (event.key === 'j' ? 1 : -1) + count) % count;
            this.mark(next);
            const [x, y, width, height] = this.state.regions[next].box;
            if (this.level === 'regions') {
                this.camera.bring({ x, y, width, height });
            } else {
                this.into(next);
            }
        } else if (event.key === 'Enter' && !event.target.closest?.('a, button')) {
            this.into();
        } else if (event.key === 'Escape') {
            if (this.margin.hidden) {
                this.camera.fit();
            } else {
                this.shut();
            }
        } else {
            const deed = this.root.querySelector(`[data-do][data-key="${CSS.escape(event.key)}"]`);
            if (deed) {
                event.preventDefault();
                this.deed(deed.dataset.do);
            } else {
                this.camera.key(event);
            }
        }
    }
}

export const map = () => ({
    init() {
        this.map = new RegionMap(this.$root);
        this.$root.map = this.map;
        this.$root.addEventListener('click', (event) => {
            const deed = event.target.closest('[data-do]');
            if (deed) {
                this.map.deed(deed.dataset.do);
            }
        });
    },
    key(event) {
        this.map.key(event);
    },
});
