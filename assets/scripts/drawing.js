// A drawing that is looked at: pan, zoom and fit by pointer, wheel and keyboard; the lines of what is pointed at stand out.
import { Camera, pointing } from './board/camera.js';

export function drawing(frame) {
    const svg = frame.querySelector('svg');
    if (!svg || frame.dataset.ready) {
        return null;
    }
    frame.dataset.ready = '1';
    const camera = new Camera(frame);
    camera.dragged();
    frame.addEventListener('keydown', (event) => camera.key(event));
    pointing(svg);
    camera.take(svg);
    window.addEventListener('resize', () => camera.fit());
    return camera;
}
