/* The search over all pages: SECTIONS has a page, a heading, a link, a text and a weight for each section. Works from files, without a network. */
'use strict';

const MOST = 12;

/** Returns the words of a text in lower case. */
function words(text) {
  return text.toLowerCase().match(/[\p{L}\p{N}][\p{L}\p{N}_.-]*/gu) || [];
}

/** Returns how well a section fits one word: in headings more than in the text, whole words more than their beginnings; 0 for not at all. */
function fit(section, word) {
  let best = 0;
  let count = 0;
  for (const [texts, weight] of [[section.headingWords, 20], [section.pageWords, 8], [section.textWords, 2]]) {
    for (const each of texts) {
      if (each === word) {
        best = Math.max(best, 2 * weight);
        count++;
      } else if (each.startsWith(word) || each.includes('.' + word) || each.includes('-' + word)) {
        best = Math.max(best, weight);
        count++;
      }
    }
  }
  return best === 0 ? 0 : best + Math.min(count, 6);
}

/** Returns the sections that contain all words of a query, the best first. */
function found(sections, query) {
  const wanted = words(query);
  if (wanted.length === 0) {
    return [];
  }
  const results = [];
  for (const section of sections) {
    if (!section.textWords) {
      section.headingWords = words(section.heading);
      section.pageWords = words(section.page);
      section.textWords = words(section.text);
    }
    const fits = wanted.map((word) => fit(section, word));
    if (fits.every((each) => each > 0)) {
      results.push({ section, rank: section.weight * fits.reduce((sum, each) => sum + each, 0) });
    }
  }
  return results.sort((one, other) => other.rank - one.rank).slice(0, MOST).map((each) => each.section);
}

/** Returns the part of a text around the first word of a query. */
function excerpt(section, query) {
  const at = section.text.toLowerCase().indexOf(words(query)[0]);
  const from = at < 60 ? 0 : section.text.indexOf(' ', at - 60) + 1;
  return (from > 0 ? '… ' : '') + section.text.slice(from, from + 150) + (from + 150 < section.text.length ? ' …' : '');
}

if (typeof document !== 'undefined') {
  const field = document.getElementById('search');
  const list = document.getElementById('found');

  const show = () => {
    const sections = found(SECTIONS, field.value);
    list.replaceChildren();
    for (const section of sections) {
      const link = document.createElement('a');
      link.href = section.link;
      const heading = document.createElement('strong');
      heading.textContent = section.heading === section.page ? section.page : section.page + ': ' + section.heading;
      const text = document.createElement('span');
      text.textContent = excerpt(section, field.value);
      link.append(heading, text);
      const item = document.createElement('li');
      item.append(link);
      list.append(item);
    }
    if (sections.length === 0 && field.value.trim() !== '') {
      const item = document.createElement('li');
      item.textContent = 'No page has all of these words; try fewer.';
      list.append(item);
    }
    list.hidden = field.value.trim() === '';
  };

  const move = (step) => {
    const links = [...list.querySelectorAll('a')];
    const next = links.indexOf(document.activeElement) + step;
    (next < 0 ? field : links[Math.min(next, links.length - 1)] || field).focus();
  };

  field.addEventListener('input', show);
  field.form.addEventListener('submit', (event) => {
    event.preventDefault();
    const first = list.querySelector('a');
    if (first) {
      location.href = first.href;
    }
  });
  document.addEventListener('keydown', (event) => {
    const isInSearch = field.form.contains(document.activeElement);
    if (event.key === '/' && !isInSearch) {
      event.preventDefault();
      field.focus();
    } else if (event.key === 'Escape' && isInSearch) {
      list.hidden = true;
      field.blur();
    } else if ((event.key === 'ArrowDown' || event.key === 'ArrowUp') && isInSearch) {
      event.preventDefault();
      move(event.key === 'ArrowDown' ? 1 : -1);
    }
  });
  document.addEventListener('click', (event) => {
    if (!field.form.contains(event.target)) {
      list.hidden = true;
    }
  });
} else {
  module.exports = { found, excerpt };
}
