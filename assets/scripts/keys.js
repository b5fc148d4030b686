import { inText } from './ask.js';

/** Goes one row further or back among those of a list, and gives it the focus. */
export function walk(event, root) {
    const rows = [...root.querySelectorAll('[data-row]')];
    const at = rows.findIndex((row) => row.classList.contains('at'));
    const next = rows[Math.min(rows.length - 1, Math.max(0, at + (event.key === 'j' ? 1 : -1)))];
    rows[at]?.classList.remove('at');
    next?.classList.add('at');
    next?.focus({ preventScroll: true });
    next?.scrollIntoView({ block: 'nearest' });
    return next;
}

/** Whether a key was pressed as a command: not in a text, not with another key, not below a dialog. */
export const plainKey = (event) => !inText(event.target) && !event.ctrlKey && !event.metaKey && !event.altKey && !document.querySelector('dialog[open]');
