// A large schema as a map: regions first; going nearer, the entries in them by name, then their keys, then all their fields.
import { Camera, Inset } from './camera.js';
import { finding } from './finding.js';
import { make, regions } from './regions.js';

/** From which scale on what is shown. */
const LEVELS = [['fields', 1.15], ['keys', 0.5], ['names', 0.11], ['regions', 0]];

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

}

Object.assign(RegionMap.prototype, regions, finding);

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
