const MODES = ['multiply', 'screen', 'overlay', 'darken', 'lighten', 'color-dodge', 'color-burn', 'hard-light', 'soft-light', 'difference', 'exclusion', 'hue', 'saturation', 'color', 'luminosity']

/** Rules for the classes of blend modes, for pictures of their own, which know no stylesheet of the page. */
export const BLENDS = MODES.map((m) => `.blend-${m} { mix-blend-mode: ${m} }`).join(' ')
