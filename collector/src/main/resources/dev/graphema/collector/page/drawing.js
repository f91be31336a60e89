// Small drawings that several views share.

import {svg} from 'lit-html';

/** A bar for each count; the part that is errors is marked. */
export function course(counts, errors = [], {width = 160, height = 18} = {}) {
  const most = Math.max(1, ...counts);
  const step = width / Math.max(1, counts.length);
  const bars = values => values.map((count, x) => {
    const high = count ? Math.max(1, height * count / most) : 0;
    return high ? `M${x * step} ${height}v${-high}h${Math.max(0.8, step - 0.6)}v${high}z` : '';
  }).join('');
  return svg`<svg class="course" width=${width} height=${height} viewBox="0 0 ${width} ${height}" aria-hidden="true">
    <path class="base" d="M0 ${height - 0.5}H${width}"></path><path class="shade2" d=${bars(counts)}></path><path class="bar error" d=${bars(errors)}></path></svg>`;
}

/** A share of a whole. */
export function share(value, most, width = 120) {
  return svg`<svg class="share" width=${width} height="10" viewBox="0 0 ${width} 10" aria-hidden="true">
    <rect class="shade3" x="0" y="1" width=${most > 0 ? Math.max(1, width * value / most) : 0} height="8"></rect></svg>`;
}
