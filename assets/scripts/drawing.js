// Pan, zoom and fit for a drawing, by pointer, wheel and keyboard; the lines of the tablet pointed at stand out.
export function drawing(frame) {
    const svg = frame.querySelector('svg');
    if (!svg || frame.dataset.ready) {
        return null;
    }
    frame.dataset.ready = '1';
    const width = svg.viewBox.baseVal.width;
    const height = svg.viewBox.baseVal.height;
    let [x, y, scale] = [0, 0, 1];
    const show = () => { svg.style.transform = `translate(${x}px, ${y}px) scale(${scale})`; };
    const fit = () => {
        scale = Math.min(1.25, frame.clientWidth / width, frame.clientHeight / height);
        x = (frame.clientWidth - width * scale) / 2;
        y = Math.max(0, (frame.clientHeight - height * scale) / 2);
        show();
    };
    const zoom = (factor, cx = frame.clientWidth / 2, cy = frame.clientHeight / 2) => {
        const next = Math.min(4, Math.max(0.05, scale * factor));
        x = cx - (cx - x) * next / scale;
        y = cy - (cy - y) * next / scale;
        scale = next;
        show();
    };
    frame.addEventListener('wheel', (event) => {
        event.preventDefault();
        const box = frame.getBoundingClientRect();
        zoom(Math.exp(-event.deltaY / (event.ctrlKey ? 120 : 480)), event.clientX - box.left, event.clientY - box.top);
    }, { passive: false });
    let held = null;
    frame.addEventListener('pointerdown', (event) => {
        if (event.button === 0) {
            held = { x: event.clientX - x, y: event.clientY - y, fromX: event.clientX, fromY: event.clientY, moved: false };
        }
    });
    window.addEventListener('pointermove', (event) => {
        if (!held) {
            return;
        }
        if (!held.moved && Math.hypot(event.clientX - held.fromX, event.clientY - held.fromY) < 4) {
            return;
        }
        held.moved = true;
        frame.classList.add('moving');
        x = event.clientX - held.x;
        y = event.clientY - held.y;
        show();
    });
    window.addEventListener('pointerup', () => {
        if (held?.moved) {
            // The click that ends a drag must not follow the link under the pointer.
            frame.addEventListener('click', (event) => { event.preventDefault(); event.stopPropagation(); }, { capture: true, once: true });
            setTimeout(() => frame.classList.remove('moving'));
        }
        held = null;
    });
    frame.addEventListener('dragstart', (event) => event.preventDefault());
    frame.addEventListener('keydown', (event) => {
        const steps = { ArrowLeft: [60, 0], ArrowRight: [-60, 0], ArrowUp: [0, 60], ArrowDown: [0, -60] };
        if (steps[event.key]) {
            x += steps[event.key][0];
            y += steps[event.key][1];
            show();
        } else if (event.key === '+' || event.key === '=') {
            zoom(1.25);
        } else if (event.key === '-') {
            zoom(0.8);
        } else if (event.key === 'f' || event.key === '0') {
            fit();
        } else {
            return;
        }
        event.preventDefault();
    });
    const ends = new Map();
    svg.querySelectorAll('.line[data-join]').forEach((line) => {
        for (const id of [line.dataset.from, line.dataset.to]) {
            ends.set(id, [...(ends.get(id) ?? []), line]);
        }
    });
    svg.addEventListener('pointerover', (event) => {
        const tablet = event.target.closest('.tablet');
        svg.classList.toggle('pointed', Boolean(tablet && ends.get(tablet.dataset.entry)));
        svg.querySelectorAll('.near').forEach((line) => line.classList.remove('near'));
        (tablet && ends.get(tablet.dataset.entry) || []).forEach((line) => line.classList.add('near'));
    });
    svg.addEventListener('pointerleave', () => svg.classList.remove('pointed'));
    fit();
    window.addEventListener('resize', fit);
    return { fit, zoom };
}
