// The help: keys, and the language of conditions.

import {html} from 'lit-html';
import {KEYS} from './keys.js';

const LANGUAGE = [
  ['level >= warn and service = deck', 'comparisons: = != < <= > >=, combined with and, or, not, ( )'],
  ['"lane not free"', 'a text anywhere in the event, ignoring case'],
  ['"deck refused" within 3', 'these words, with at most three others between them'],
  ['message like "deck*refused"', '* and ? as wildcards'],
  ['message near "lok wiat"', 'with spelling mistakes'],
  ['path matches "^/sailings/"', 'a regular expression (RE2)'],
  ['logger starts skerry.gate', 'starts, ends, has'],
  ['status between 500 and 599', 'a range; vehicle in (coach, lorry) is a list'],
  ['booking exists', 'exists, missing'],
  ['elapsed > 1.5s', 'durations, sizes (4MB) and times (2026-05-15T07:31)'],
  ['--last 2h', 'the window: --last, --from and --to, --around with --within, --during'],
  ['--from yesterday 09:00 --to 10:00', 'times as dates, clock times, weekdays, or 2h ago'],
  ['--oldest', 'the oldest events first'],
];

export function help() {
  return html`<div class="help">
    <div><h3>Keys</h3><table><tbody>${KEYS.map(([key, what]) => html`<tr><th scope="row" class="data">${key}</th><td>${what}</td></tr>`)}</tbody></table></div>
    <div><h3>Questions</h3><table><tbody>${LANGUAGE.map(([example, what]) => html`<tr><th scope="row" class="data">${example}</th><td>${what}</td></tr>`)}</tbody></table></div></div>`;
}
