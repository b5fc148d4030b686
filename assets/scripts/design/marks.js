// What is said of lines of an outline: below those that are not understood, and beside those of which something was noticed.
import { StateEffect, StateField } from '@codemirror/state';
import { Decoration, EditorView, gutter, GutterMarker, WidgetType } from '@codemirror/view';

export const setFaults = StateEffect.define();
export const setNotes = StateEffect.define();

class Said extends WidgetType {
    constructor(fault) {
        super();
        this.fault = fault;
    }
    eq(other) { return JSON.stringify(other.fault) === JSON.stringify(this.fault); }
    toDOM(view) {
        const box = document.createElement('div');
        box.className = 'o-said';
        box.setAttribute('role', 'note');
        // Each offer is underlined where the sentence names it; one that it does not name follows it.
        let rest = this.fault.message;
        for (const offer of this.fault.offers) {
            const at = rest.indexOf(offer);
            box.append(at < 0 ? `${rest} ` : rest.slice(0, at));
            rest = at < 0 ? '' : rest.slice(at + offer.length);
            const button = document.createElement('button');
            button.type = 'button';
            button.textContent = offer;
            button.addEventListener('mousedown', (event) => event.preventDefault());
            button.addEventListener('click', () => mend(view, this.fault, offer));
            box.append(button);
        }
        box.append(rest);
        return box;
    }
    ignoreEvent() { return true; }
}

function mend(view, fault, offer) {
    const line = view.state.doc.line(Math.min(fault.line, view.state.doc.lines));
    const from = Math.min(line.from + fault.column, line.to);
    const to = Math.min(from + fault.length, line.to);
    view.dispatch({ changes: { from, to, insert: offer }, selection: { anchor: from + offer.length } });
    view.focus();
}

function faultsOf(doc, faults) {
    const marks = [];
    for (const fault of faults) {
        if (fault.line > doc.lines) {
            continue;
        }
        const line = doc.line(fault.line);
        const from = Math.min(line.from + fault.column, line.to);
        const to = Math.min(Math.max(from + fault.length, from + 1), line.to);
        if (to > from) {
            marks.push(Decoration.mark({ class: 'o-fault' }).range(from, to));
        }
        marks.push(Decoration.widget({ widget: new Said(fault), block: true, side: 1 }).range(line.to));
    }
    return Decoration.set(marks, true);
}

export const faultField = StateField.define({
    create: () => Decoration.none,
    update(value, transaction) {
        for (const effect of transaction.effects) {
            if (effect.is(setFaults)) {
                return faultsOf(transaction.state.doc, effect.value);
            }
        }
        return value.map(transaction.changes);
    },
    provide: (field) => EditorView.decorations.from(field),
});

class Mark extends GutterMarker {
    constructor(notes) {
        super();
        this.notes = notes;
    }
    eq(other) { return JSON.stringify(other.notes) === JSON.stringify(this.notes); }
    toDOM() {
        const mark = document.createElement('span');
        mark.className = this.notes.some((note) => note.serious) ? 'o-mark serious' : 'o-mark';
        mark.title = this.notes.map((note) => note.words).join('\n');
        return mark;
    }
}

export const noteField = StateField.define({
    create: () => new Map(),
    update(value, transaction) {
        for (const effect of transaction.effects) {
            if (effect.is(setNotes)) {
                const byLine = new Map();
                for (const note of effect.value) {
                    byLine.set(note.line, [...byLine.get(note.line) ?? [], note]);
                }
                return byLine;
            }
        }
        return value;
    },
});

/** The marks at the margin. */
export const margin = () => gutter({
    class: 'o-marks',
    lineMarker(of, block) {
        const notes = of.state.field(noteField).get(of.state.doc.lineAt(block.from).number);
        return notes ? new Mark(notes) : null;
    },
    lineMarkerChange: (update) => update.transactions.some((one) => one.effects.some((effect) => effect.is(setNotes))) || update.docChanged,
});
