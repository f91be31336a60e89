// Draws shapes into the page.

import {svg} from 'lit-html';
import {courseShapes} from './shapes.js';

export function drawn(shape) {
  switch (shape.element) {
    case 'path':
      return svg`<path class=${shape.style} d=${shape.d}></path>`;
    case 'rect':
      return svg`<rect class=${shape.style} x=${shape.x} y=${shape.y} width=${shape.width} height=${shape.height}></rect>`;
    default:
      return svg`<text class=${shape.style} x=${shape.x} y=${shape.y} text-anchor=${shape.anchor}>${shape.words}</text>`;
  }
}

/** A bar for each count; the part that is errors is marked. */
export function course(counts, errors = [], {width = 160, height = 18} = {}) {
  return svg`<svg class="course" width=${width} height=${height} viewBox="0 0 ${width} ${height}" aria-hidden="true">
    ${courseShapes(counts, errors, {width, height}).map(drawn)}</svg>`;
}

/** A share of a whole. */
export function share(value, most, width = 120) {
  return svg`<svg class="share" width=${width} height="10" viewBox="0 0 ${width} 10" aria-hidden="true">
    <rect class="shade3" x="0" y="1" width=${most > 0 ? Math.max(1, width * value / most) : 0} height="8"></rect></svg>`;
}
