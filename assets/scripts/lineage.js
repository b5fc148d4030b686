/** Point at a field, and all that it comes from and all that is made of it stands out. */
export const lineage = () => ({
    init() {
        this.picture = this.$el.querySelector('svg');
        this.ties = [...this.picture.querySelectorAll('.tie[data-from]')];
        this.rows = new Map([...this.picture.querySelectorAll('[data-row]')].map((row) => [row.dataset.row, row]));
        for (const [key, row] of this.rows) {
            for (const event of ['pointerenter', 'focus']) {
                row.addEventListener(event, () => this.light(key));
            }
            for (const event of ['pointerleave', 'blur']) {
                row.addEventListener(event, () => this.picture.classList.remove('points'));
            }
        }
        this.$el.querySelector('.focus')?.scrollIntoView({ block: 'nearest', inline: 'center' });
        window.scrollTo(0, 0);
    },
    /** Follows the ties from a row in one direction. */
    reach(key, from, to, lit) {
        const front = [key];
        const seen = new Set(front);
        while (front.length > 0) {
            const at = front.pop();
            for (const tie of this.ties) {
                if (tie.dataset[from] === at) {
                    lit.add(tie);
                    if (!seen.has(tie.dataset[to])) {
                        seen.add(tie.dataset[to]);
                        front.push(tie.dataset[to]);
                    }
                }
            }
        }
        return seen;
    },
    light(key) {
        const lit = new Set();
        const rows = new Set([...this.reach(key, 'from', 'to', lit), ...this.reach(key, 'to', 'from', lit)]);
        for (const tie of this.ties) {
            tie.classList.toggle('lit', lit.has(tie));
        }
        for (const [name, row] of this.rows) {
            row.classList.toggle('lit', rows.has(name));
        }
        this.picture.classList.add('points');
    },
});
