// Where what is dragged comes to lie: on the grid, and in line with the edges and middles of what stands near.
const GRID = 10;
const REACH = 7;

/**
 * @param box    x, y, width and height of what is dragged
 * @param others rectangles [x, y, width, height]
 * @returns how far to move it further, and the lines that it is in line with
 */
export function snapped(box, others) {
    const guides = [];
    const off = [0, 0];
    for (const axis of [0, 1]) {
        const [at, size] = axis === 0 ? [box.x, box.width] : [box.y, box.height];
        let best = null;
        for (const other of others) {
            const [from, length] = [other[axis], other[axis + 2]];
            for (const [own, theirs] of [[at, from], [at + size, from + length], [at + size / 2, from + length / 2]]) {
                const away = theirs - own;
                if (Math.abs(away) <= REACH && (!best || Math.abs(away) < Math.abs(best.away))) {
                    best = { away, line: theirs, other };
                }
            }
        }
        if (best) {
            off[axis] = best.away;
            const along = 1 - axis;
            const [own, length] = along === 0 ? [box.x, box.width] : [box.y, box.height];
            const [theirs, theirLength] = [best.other[along], best.other[along + 2]];
            guides.push({ axis, at: best.line, from: Math.min(own, theirs), to: Math.max(own + length, theirs + theirLength) });
        } else {
            off[axis] = Math.round(at / GRID) * GRID - at;
        }
    }
    return { dx: off[0], dy: off[1], guides };
}

/** Moves rectangles into line, or apart evenly. `how` is left, right, top, bottom, centre, middle, across or down. */
export function aligned(boxes, how) {
    const all = Object.entries(boxes);
    const value = (get, pick) => pick(...all.map(([, box]) => get(box)));
    const moved = {};
    const put = (key, box, x, y) => { moved[key] = [Math.round(x / GRID) * GRID, Math.round(y / GRID) * GRID]; };
    const edges = {
        left: () => { const x = value((b) => b[0], Math.min); all.forEach(([k, b]) => put(k, b, x, b[1])); },
        right: () => { const x = value((b) => b[0] + b[2], Math.max); all.forEach(([k, b]) => put(k, b, x - b[2], b[1])); },
        top: () => { const y = value((b) => b[1], Math.min); all.forEach(([k, b]) => put(k, b, b[0], y)); },
        bottom: () => { const y = value((b) => b[1] + b[3], Math.max); all.forEach(([k, b]) => put(k, b, b[0], y - b[3])); },
        centre: () => { const x = all.reduce((sum, [, b]) => sum + b[0] + b[2] / 2, 0) / all.length; all.forEach(([k, b]) => put(k, b, x - b[2] / 2, b[1])); },
        middle: () => { const y = all.reduce((sum, [, b]) => sum + b[1] + b[3] / 2, 0) / all.length; all.forEach(([k, b]) => put(k, b, b[0], y - b[3] / 2)); },
        across: () => spread(0),
        down: () => spread(1),
    };
    function spread(axis) {
        const sorted = [...all].sort(([, a], [, b]) => a[axis] - b[axis]);
        const [first, last] = [sorted[0][1], sorted[sorted.length - 1][1]];
        const free = last[axis] + last[axis + 2] - first[axis] - sorted.reduce((sum, [, b]) => sum + b[axis + 2], 0);
        let at = first[axis];
        for (const [key, box] of sorted) {
            put(key, box, axis === 0 ? at : box[0], axis === 1 ? at : box[1]);
            at += box[axis + 2] + free / Math.max(1, sorted.length - 1);
        }
    }
    edges[how]();
    return moved;
}
