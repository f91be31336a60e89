
// Draws the answers that the report contains; without scripts, the report shows them as text.

function element(name, attributes, children = []) {
  const created = document.createElementNS('http://www.w3.org/2000/svg', name);
  Object.entries(attributes).forEach(([attribute, value]) => created.setAttribute(attribute, value));
  created.append(...children);
  return created;
}

function drawn({element: name, style, words, anchor, ...places}) {
  return name === 'text' ? element(name, {class: style, 'text-anchor': anchor, ...places}, [words]) : element(name, {class: style, ...places});
}

function picture(width, height, label, children) {
  return element('svg', {viewBox: `0 0 ${width} ${height}`, role: 'img', 'aria-label': label}, children);
}

const WIDTH = 1150;

const drawings = {
  map({answer, marks}) {
    const places = mapPlaces(answer, WIDTH);
    return picture(places.width, places.height, 'events of each source over time', mapShapes(answer, places, marks).map(drawn));
  },
  course(counts) {
    const size = {width: 160, height: 24};
    return picture(size.width, size.height, 'course', courseShapes(counts, [], size).map(drawn));
  },
  trail(answer) {
    const {width, height, axis, operations} = trailShapes(answer, WIDTH);
    const bars = operations.map(each => element('g', {class: each.failed ? 'operation failed' : 'operation'}, each.shapes.map(drawn)));
    return picture(width, height, 'operations', [...axis.map(drawn), ...bars]);
  },
};

setZone(document.documentElement.dataset.zone);
document.querySelectorAll('script[type="application/json"]').forEach(values => {
  values.before(drawings[values.dataset.drawing](JSON.parse(values.textContent)));
  if (values.nextElementSibling?.matches('.as-text')) {
    values.nextElementSibling.remove();
  }
});
