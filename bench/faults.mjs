// Writers that sign in, write texts one after the other as the page's script does, and look whether every word is there in the end:
// `busy` beside a mute source, a scratch run and an edition; `outage` while the database is away for twenty seconds.
import { spawn, spawnSync } from 'node:child_process';
import { createServer } from 'node:net';

const [part, base] = process.argv.slice(2);
const TRIES = 200;

class Person {
    constructor() {
        this.cookie = '';
        this.times = [];
        this.errors = 0;
        this.away = 0;
        this.signedOut = 0;
    }

    async ask(path, options = {}) {
        const headers = { Cookie: this.cookie, ...options.headers };
        const response = await fetch(base + path, { redirect: 'manual', ...options, headers });
        for (const cookie of response.headers.getSetCookie()) {
            if (cookie.startsWith('fasti=')) {
                this.cookie = cookie.split(';')[0];
            }
        }
        return { status: response.status, text: await response.text() };
    }

    async signIn() {
        const page = await this.ask('/sign-in');
        const token = /name="_csrf_token" value="([^"]+)"/.exec(page.text)[1];
        await this.ask('/sign-in', {
            method: 'POST',
            headers: { 'Content-Type': 'application/x-www-form-urlencoded' },
            body: new URLSearchParams({ email: 'oona@arrowmere.example', password: 'steward-oona', _csrf_token: token }),
        });
    }

    async token(path) {
        const page = await this.ask(path);
        return /name="texts-token" content="([^"]+)"/.exec(page.text)?.[1] ?? '';
    }

    /** As the script of a page does it: tried again until the server has it. */
    async write(field, words, from) {
        for (let i = 0; i < TRIES; i += 1) {
            const began = performance.now();
            let answer;
            try {
                answer = await this.ask('/texts', {
                    method: 'POST',
                    headers: { 'Content-Type': 'application/json', 'X-Requested-With': 'fetch', 'X-Csrf-Token': this.csrf },
                    body: JSON.stringify({ topic: 'field', id: field, property: 'meaning', base: from, value: words, sitting: `f${field}` }),
                });
            } catch {
                answer = { status: 0, text: '' };
            }
            this.times.push(performance.now() - began);
            if (answer.status === 200) {
                return JSON.parse(answer.text).value;
            }
            if (answer.status === 409 && JSON.parse(answer.text).value === words) {
                // It was saved before, and the answer got lost on its way.
                return words;
            }
            if (answer.status === 401) {
                this.signedOut += 1;
            } else if (answer.status === 503 || answer.status === 0) {
                this.away += 1;
            } else {
                this.errors += 1;
                this.last = `${answer.status} ${answer.text.slice(0, 200)} for ${JSON.stringify(words)} upon ${JSON.stringify(from)}, field ${field}`;
            }
            await new Promise((done) => { setTimeout(done, 400); });
        }
        return from;
    }
}

const fields = async (person, many) => {
    const found = new Set();
    for (let entry = 1; found.size < many && entry < 60; entry += 1) {
        const page = await person.ask(`/register/${entry}`);
        for (const [, id] of page.text.matchAll(/data-topic="field" data-id="(\d+)" data-property="meaning"/g)) {
            found.add(Number(id));
        }
    }
    return [...found].slice(0, many);
};

async function run(many, seconds, beside) {
    const people = Array.from({ length: many }, () => new Person());
    await Promise.all(people.map((person) => person.signIn()));
    for (const person of people) {
        person.csrf = await person.token('/register/1');
    }
    const ids = await fields(people[0], many);
    const until = Date.now() + seconds * 1000;
    const written = people.map(async (person, i) => {
        let base = await startOf(person, ids[i]);
        for (let n = 0; Date.now() < until; n += 1) {
            base = await person.write(ids[i], `Written by ${i}, ${n}.`, base);
            await new Promise((done) => { setTimeout(done, 250); });
        }
        return base;
    });
    const [last] = await Promise.all([Promise.all(written), beside(people)]);
    let lost = 0;
    let out = 0;
    for (const [i, person] of people.entries()) {
        lost += (await startOf(person, ids[i])) === last[i] && last[i].startsWith(`Written by ${i}`) ? 0 : 1;
        out += (await person.ask('/desk')).status === 200 ? 0 : 1;
    }
    const times = people.flatMap((person) => person.times).sort((a, b) => a - b);
    const sum = (of) => people.reduce((all, person) => all + person[of], 0);
    for (const person of people.filter((one) => one.last)) {
        console.error(person.last);
    }
    const slow = times[Math.ceil(0.95 * times.length) - 1];
    return { lost, out, errors: sum('errors'), away: sum('away'), signedOut: sum('signedOut'), slow, count: times.length };
}

/** What stands there now: whoever sends another base is told. */
async function startOf(person, field) {
    const answer = await person.ask('/texts', {
        method: 'POST',
        headers: { 'Content-Type': 'application/json', 'X-Requested-With': 'fetch', 'X-Csrf-Token': person.csrf },
        body: JSON.stringify({ topic: 'field', id: field, property: 'meaning', base: 'nobody wrote this', value: 'nor this', sitting: 'look' }),
    });
    return answer.status === 409 ? JSON.parse(answer.text).value : '';
}

async function busy(people) {
    const [person] = [new Person()];
    await person.signIn();
    const mute = createServer(() => {});
    await new Promise((done) => { mute.listen(0, '127.0.0.1', done); });
    const port = mute.address().port;
    const page = await person.ask('/sources/new');
    const token = /data-token="([^"]+)"/.exec(page.text)?.[1] ?? '';
    const headers = { 'Content-Type': 'application/x-www-form-urlencoded' };
    const form = (path, body) => person.ask(path, { method: 'POST', headers, body: new URLSearchParams(body) });
    const pressed = async (path, action) => {
        const shown = await person.ask(path);
        const at = shown.text.indexOf(`action="${action}"`);
        const csrf = /name="_token"\s+value="([^"]+)"/.exec(shown.text.slice(Math.max(0, at)))?.[1] ?? '';
        return (await form(action, { _token: csrf, engine: 'postgresql' })).status;
    };
    const statuses = [await pressed('/designs/1/script', '/designs/1/run'), await pressed('/editions', '/editions')];
    for (let i = 0; i < 12; i += 1) {
        await form('/sources/test', { _token: token, engine: 'mariadb', host: '127.0.0.1', port: String(port), account: 'x', secret: 'x', database: '' });
    }
    mute.close();
    console.error(`beside: ${statuses.join(' ')}, ${people.length} people`);
}

async function outage() {
    await new Promise((done) => { setTimeout(done, 5000); });
    spawnSync('bin/prepare', ['--stop'], { stdio: 'ignore' });
    await new Promise((done) => { setTimeout(done, 20000); });
    await new Promise((done) => { spawn('bin/prepare', [], { stdio: 'ignore' }).on('close', done); });
}

const figures = [];
if (part === 'busy') {
    const got = await run(20, Number(process.argv[4] ?? 60), busy);
    figures.push({ what: `20 writers, ${got.count} texts: answers of 5xx`, taken: got.errors + got.away, limit: 0 });
    figures.push({ what: '20 writers: texts lost', taken: got.lost, limit: 0 });
    figures.push({ what: '20 writers: 95 of 100 answers, ms', taken: Math.round(got.slow), limit: 400 });
} else {
    const got = await run(10, 45, outage);
    figures.push({ what: `database away 20 s, told ${got.away} times: signed out`, taken: got.out + got.signedOut, limit: 0 });
    figures.push({ what: 'database away: texts lost', taken: got.lost, limit: 0 });
    figures.push({ what: 'database away: other errors', taken: got.errors, limit: 0 });
}
console.log(JSON.stringify(figures));
