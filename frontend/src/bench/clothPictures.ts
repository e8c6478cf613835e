/** A small picture, 60 × 30: cloth in ink, what is cut in soft ink, what is done to it in madder, folds in dashes, cords as dots. */
export interface ClothPicture {
  cloth: readonly string[]
  cut?: readonly string[]
  work?: readonly string[]
  fold?: readonly string[]
  dots?: readonly (readonly [number, number])[]
}

/** How edges are finished, how corners are cut, and what is put on a panel; drawn for this application. */
export const CLOTH_PICTURES: Readonly<Record<string, ClothPicture>> = {
  plain: { cloth: ['M6 15H54'] },
  hem: { cloth: ['M6 21H50a5 5 0 0 0 0-11H32'] },
  double_hem: { cloth: ['M6 23H50a6 6 0 0 0 0-13H30a3 3 0 0 0 0 6H44'] },
  casing: { cloth: ['M6 24H48a8 8 0 0 0 0-17H30a3 3 0 0 0 0 6H36', 'M28 24V13'], dots: [[46, 15.5]] },
  bound: { cloth: ['M6 15H46'], work: ['M36 9H48a6 6 0 0 1 0 12H36'] },
  raw: { cloth: ['M6 15H48'], cut: ['M48 9l4 2-4 2 4 2-4 2 4 2-4 2'] },
  faced: { cloth: ['M6 10H52'], cut: ['M52 10V17H26'] },
  piped: { cloth: ['M6 10H44', 'M6 20H44'], dots: [[49, 15]] },
  felled_wide: { cloth: ['M6 21H42a4 4 0 0 0 0-10H26', 'M54 16H30'] },
  felled_narrow: { cloth: ['M54 21H34', 'M6 16H30'], cut: ['M24 11H42a4 4 0 0 1 0 10'] },
  french: { cloth: ['M6 12H36V22H24V15H34', 'M54 12H39'] },
  lapped_over: { cloth: ['M6 10H40a3 3 0 0 1 0 6H28'], cut: ['M24 21H54'] },
  lapped_under: { cloth: ['M24 21H54'], cut: ['M6 12H40'] },
  zip: { cloth: ['M6 10H24V18', 'M54 10H36V18'], dots: [[30, 18]] },
  fold: { cloth: ['M54 10H14a5 5 0 0 0 0 10H54'] },
  by_rule: { cloth: ['M26 28V16H52'], cut: ['M16 28V12M22 6H52'], dots: [[16, 6]] },
  mitre: { cloth: ['M26 28V16H52'], cut: ['M16 28V6H52'] },
  square: { cloth: ['M26 28V16H52'], cut: ['M16 28V16H26V6H52'] },
  bevel: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L26 6H52'] },
  mirror: { cloth: ['M26 28V16H52'], cut: ['M16 28V16L30 6H52', 'M12 16H48'] },
  hem_mitre: { cloth: ['M26 28V16H52'], cut: ['M14 28V24L34 4H52', 'M26 16L36 26'] },
  dart: { cloth: ['M4 4H20M40 4H56M4 4V28M56 4V28'], work: ['M20 4 30 24 40 4'], fold: ['M30 24V6'] },
  pleats: { cloth: ['M4 6H20L14 12H32L26 18H44L38 24H56'], fold: ['M20 6V26M32 12V26'] },
  gather: { cloth: ['M4 24H56'], work: ['M4 12q4-8 7 0t7 0 7 0 7 0 7 0 7 0 6 0'] },
  taper: { cloth: ['M6 28V16Q7 6 18 5H56'], fold: ['M6 16V3H18'] },
  aperture: { cloth: ['M4 3H56V28H4Z'], work: ['M30 8a7.5 7.5 0 1 0 .01 0'], fold: ['M30 11.5a4 4 0 1 0 .01 0'] },
  mark: { cloth: ['M4 3H56V28H4Z'], work: ['M25 10 35 21M35 10 25 21'] },
  layer: { cloth: ['M12 4H56V20H12Z'], fold: ['M8 8H12M8 8V24H52V20', 'M4 12H8M4 12V28H48V24'] },
}
