import { HEADERS } from './ask.js';

/** The form of a connection. What each engine asks for stands at its button: fields, port, schemes of its URLs. */
export const connection = () => ({
    busy: false,
    asked: false,
    message: '',
    advice: '',
    tone: '',
    init() { this.kind(); },
    input(name) { return this.$root.querySelector(`[name$="[${name}]"]`); },
    engines() { return [...this.$root.querySelectorAll('[name$="[engine]"]')]; },
    engine() { return this.engines().find((button) => button.checked) ?? this.engines()[0]; },
    /** Shows what the kind of source asks for. */
    kind() {
        const asks = this.engine().dataset;
        const fields = asks.fields.split(' ');
        this.$root.querySelectorAll('[data-field]').forEach((block) => {
            block.hidden = !block.dataset.field.split(' ').some((field) => fields.includes(field));
        });
        const port = this.input('port');
        if (['', ...this.engines().map((button) => button.dataset.port)].includes(port.value)) {
            port.value = asks.port;
        }
        this.input('url').placeholder = `${asks.schemes.split(' ')[0]}://account:secret@host:${port.value}/database`;
        this.input('files[]')?.toggleAttribute('multiple', fields.includes('files'));
        this.asked = false;
    },
    pasted() {
        const m = /^([a-z]+):\/\/(?:(.*)@)?(\[[^\]]+\]|[^:/?@[]*)(?::(\d*))?(?:\/([^?#]*))?/i.exec(this.input('url').value.trim());
        const button = m && this.engines().find((each) => each.dataset.schemes.split(' ').includes(m[1].toLowerCase()));
        if (!button || button.dataset.port === '') {
            return;
        }
        button.checked = true;
        this.kind();
        const plain = (text) => { try { return decodeURIComponent(text); } catch { return text; } };
        const [account, ...secret] = (m[2] ?? '').split(':');
        this.input('host').value = plain(m[3].replace(/[[\]]/g, ''));
        this.input('port').value = m[4] || button.dataset.port;
        this.input('database').value = plain(m[5] ?? '');
        this.input('account').value = plain(account);
        if (secret.length > 0) {
            this.input('secret').value = plain(secret.join(':'));
            this.input('url').value = '';
        }
    },
    async test() {
        this.busy = true;
        this.asked = true;
        [this.message, this.advice, this.tone] = ['Trying …', '', ''];
        const form = new FormData();
        for (const name of ['url', 'host', 'port', 'database', 'account', 'secret']) {
            form.set(name, this.input(name).value);
        }
        form.set('engine', this.engine().value);
        form.set('_token', this.$root.dataset.token);
        form.set('connection', this.$root.dataset.connection);
        try {
            const answer = await (await fetch(this.$root.dataset.url, { method: 'POST', headers: HEADERS, body: form })).json();
            [this.message, this.advice, this.tone] = [answer.message ?? answer.error, answer.advice ?? '', answer.ok ? 'good' : 'bad'];
        } catch {
            [this.message, this.advice, this.tone] = ['Fasti itself does not answer.', 'Check that it still runs, then try again.', 'bad'];
        }
        this.busy = false;
    },
});

/** What a choice of schemas and patterns would read, shown while it is made. The rules are those of core/Survey/Choice.php. */
export const choice = () => ({
    tally: '',
    init() { this.count(); },
    count() {
        const all = this.$refs.all.checked;
        const ticks = [...this.$root.querySelectorAll('[data-schema][type=checkbox]')];
        ticks.forEach((tick) => { tick.disabled = all; });
        const schemas = new Set(ticks.filter((tick) => all || tick.checked).map((tick) => tick.value));
        const patterns = (text) => (text.match(/(?:"(?:[^"]|"")*"|[^\s,;"])+/g) ?? []).map((pattern) => ({
            dotted: pattern.includes('.'),
            regex: new RegExp(`^${pattern.replace(/[\\^$+.()|{}[\]]/g, '\\$&').replace(/\*/g, '.*').replace(/\?/g, '.')}$`, 'isu'),
        }));
        const include = patterns(this.$refs.include.value);
        const exclude = patterns(this.$refs.exclude.value);
        const hits = (list, name, place) => list.some((pattern) => pattern.regex.test(name) || (pattern.dotted && pattern.regex.test(place)));
        const counts = { table: 0, view: 0, collection: 0 };
        this.$refs.objects.querySelectorAll('li').forEach((item) => {
            const { schema, name, place, kind } = item.dataset;
            const taken = schemas.has(schema) && (include.length === 0 || hits(include, name, place)) && !hits(exclude, name, place);
            item.classList.toggle('left-out', !taken);
            counts[kind === 'materialized view' ? 'view' : kind] += taken ? 1 : 0;
        });
        const say = (n, noun) => `${n.toLocaleString('en')} ${noun}${n === 1 ? '' : 's'}`;
        const told = Object.entries(counts).filter(([kind, count]) => count > 0 || kind === 'table');
        this.tally = `${told.map(([kind, count]) => say(count, kind)).join(', ')} will be read.`;
    },
});
