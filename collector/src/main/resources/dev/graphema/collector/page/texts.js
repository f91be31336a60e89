// Texts of events as they are shown: characters that control a terminal or the direction of a text become visible.

const LONGEST = 2_000;
const HIDDEN = /[\u0000-\u0008\u000b-\u001f\u007f-\u009f\u061c\u200b-\u200f\u2028-\u202e\u2060-\u2069\ufeff]/g;

export function visible(text) {
  return text.replace(HIDDEN, character => `\\u${character.charCodeAt(0).toString(16).padStart(4, '0')}`);
}

/** The beginning of a text. */
export function cut(text, most = LONGEST) {
  const begin = text.length > most ? text.slice(0, most) : text;
  return visible(begin) + (text.length > most ? `… (${text.length.toLocaleString()} characters)` : '');
}

/** The beginning of a text, for labels. */
export function short(text, most) {
  return visible(text.length > most ? `${text.slice(0, most - 1)}…` : text);
}
