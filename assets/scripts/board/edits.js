// What was done on a diagram: kept until the server has it, and undone step by step, each person's own steps only.
import { HEADERS, token } from '../ask.js';

const sorted = (value) => (value && typeof value === 'object' && !Array.isArray(value)
    ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
    : value);
const same = (a, b) => JSON.stringify(sorted(a) ?? null) === JSON.stringify(sorted(b) ?? null);

const REASONS = {
    401: 'you have been signed out. Sign in again, in another window say',
    403: 'you may not write here any more',
    404: 'this diagram is not there any more',
};

export class Edits {
    /** @param told called with words, a tone, and whether that is all that is to be told */
    constructor({ id, url, sitting, told, answered }) {
        Object.assign(this, { url, sitting, told, answered });
        this.key = `fasti:diagram:${id}`;
        this.steps = this.read(sessionStorage, 'steps') ?? [];
        this.undone = this.read(sessionStorage, 'undone') ?? [];
        this.waiting = this.read(localStorage, 'waiting') ?? {};
        this.ways = null;
        this.draw = false;
        this.since = 0;
        this.busy = null;
    }

    read(store, name) {
        try { return JSON.parse(store.getItem(`${this.key}:${name}`)); } catch { return null; }
    }

    keep() {
        sessionStorage.setItem(`${this.key}:steps`, JSON.stringify(this.steps.slice(-200)));
        sessionStorage.setItem(`${this.key}:undone`, JSON.stringify(this.undone));
        if (Object.keys(this.waiting).length > 0) {
            localStorage.setItem(`${this.key}:waiting`, JSON.stringify(this.waiting));
        } else {
            localStorage.removeItem(`${this.key}:waiting`);
        }
    }

    did(step) {
        this.steps.push(step);
        this.undone = [];
        this.keep();
    }

    /** The changes that take back the last step, or make it again; pieces that somebody else has changed since stay as they are. */
    turn(pieces, back) {
        const step = (back ? this.steps : this.undone).pop();
        if (!step) {
            return null;
        }
        const changes = {};
        let others = 0;
        for (const [key, [before, after]] of Object.entries(step)) {
            const [from, to] = back ? [after, before] : [before, after];
            if (same(pieces[key], from)) {
                changes[key] = to ?? null;
            } else {
                others += 1;
            }
        }
        (back ? this.undone : this.steps).push(step);
        this.keep();
        return { changes, others };
    }

    /** Sends what is to be written; whatever fails is sent again. */
    send(changes, { ways = null, draw = false } = {}) {
        Object.assign(this.waiting, changes);
        this.ways = ways ?? this.ways;
        this.draw ||= draw;
        this.keep();
        this.busy ??= this.post().finally(() => { this.busy = null; });
        return this.busy;
    }

    async post() {
        while (Object.keys(this.waiting).length > 0 || this.draw) {
            const [changes, ways, draw] = [this.waiting, this.ways, this.draw];
            [this.waiting, this.ways, this.draw] = [{}, null, false];
            try {
                const response = await fetch(this.url(), {
                    method: 'POST',
                    headers: { ...HEADERS, 'Content-Type': 'application/json', 'X-Csrf-Token': token() },
                    body: JSON.stringify({ changes, ways, draw, since: this.since, sitting: this.sitting }),
                });
                const answer = response.status === 422 || response.ok ? await response.json() : {};
                if (response.status === 422) {
                    this.told(answer.error, 'bad');
                    this.keep();
                    this.answered({ refused: Object.keys(changes) });
                    return;
                }
                if (!response.ok) {
                    throw new Error(String(response.status));
                }
                this.keep();
                this.since = answer.move;
                this.answered(answer);
            } catch (error) {
                this.waiting = { ...changes, ...this.waiting };
                this.ways ??= ways;
                this.draw ||= draw;
                this.keep();
                this.told(`Not saved: ${REASONS[error.message] ?? 'Fasti does not answer'}. What you did is kept in this browser and is sent again.`, 'bad');
                await new Promise((resolve) => { setTimeout(resolve, 4000); });
            }
        }
    }
}
