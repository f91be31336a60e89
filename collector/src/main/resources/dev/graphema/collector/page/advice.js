// Information about a question besides its answer: its cost, and why it has no answer.

import {ask} from './api.js';
import {guarded, join, parts, split, tokens, withWindow} from './conditions.js';

const COSTLY = 20_000_000;
const LONGEST = '3s';
const MOST_PARTS = 8;
const VALUE_FOLLOWS = /^([=!<>(,]+|in|starts|ends|has|like|near|matches|between|and)$/i;

/** Texts of the condition, which are marked in the events. */
export function searched(question) {
  return tokens(split(question).condition).filter(token => token.type === 'text')
    .map(token => token.text.replace(/^"|"$/g, '').toLowerCase()).filter(word => word.length > 1);
}

/** Returns the number of events whose texts a question searches if they are many, else 0. */
export async function cost(question, selection, signal) {
  const all = tokens(split(question).condition);
  const isText = all.some((token, i) => token.type === 'text' && !VALUE_FOLLOWS.test(all[i - 1]?.text ?? '')
    || token.type === 'word' && /^(near|matches)$/i.test(token.text));
  if (!isText) {
    return 0;
  }
  const answer = await ask({during: selection.during}, {kind: 'counts', by: []}, {signal, within: LONGEST});
  return answer.all.count < COSTLY ? 0 : answer.all.count;
}

/** Returns questions that have answers, each without a part of this one: with `text`, `count` and the question `q`. */
export async function alternatives(question, selection, signal) {
  const {condition, options} = split(question);
  const all = parts(condition);
  const tried = all.slice(0, MOST_PARTS).map(part => {
    const rest = all.filter(each => each !== part).map(guarded).join(' and ');
    return {text: `without ${part}`, where: rest, during: selection.during, q: join(rest, options)};
  });
  if (Object.keys(selection.during ?? {}).length) {
    tried.push({text: 'at other times', where: selection.where, q: withWindow(question, '')});
  }
  const counted = await Promise.all(tried.map(async each => {
    const answer = await ask(each, {kind: 'counts', by: []}, {signal, within: LONGEST}).catch(() => null);
    return {...each, count: answer?.all.count ?? 0};
  }));
  return counted.filter(each => each.count > 0);
}
