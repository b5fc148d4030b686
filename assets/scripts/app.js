import Alpine from '@alpinejs/csp';
import { board } from './board/component.js';
import { map } from './board/map.js';
import { desk } from './desk.js';
import { diagram } from './diagram.js';
import { entries, entry, folio } from './entry.js';
import { findings } from './findings.js';
import { drift } from './following.js';
import { changes, takings } from './history.js';
import { joins } from './joins.js';
import { lineage } from './lineage.js';
import { formula, model } from './model/formula.js';
import { trial } from './model/trial.js';
import { menu, theme } from './page.js';
import { register, rows } from './register.js';
import { find } from './search.js';
import { choice, connection } from './source.js';
import { work } from './work.js';

const components = {
    board, map, desk, diagram, entries, entry, folio, findings, drift, takings, joins, lineage, formula, model, trial, menu, theme, register, rows, find,
    choice, connection, work, history: changes,
};
for (const [name, component] of Object.entries(components)) {
    Alpine.data(name, component);
}

document.addEventListener('change', (event) => {
    if (event.target.matches('[data-submits]')) {
        event.target.form.submit();
    }
});

Alpine.start();
