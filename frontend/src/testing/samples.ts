import type { Job, Panel, Photo, Schemas, SeamEdge, Shape } from '../api/client'

/** Made-up answers of the server, whole by the schema's types; a test says what is different. */
export function anEdge(of: string, more: Partial<SeamEdge> = {}): SeamEdge {
  return {
    of,
    name: of,
    own_name: of,
    main_part: true,
    kind: 'line',
    path: 'M0 0 L100 0',
    start: [0, 0],
    middle: [50, 0],
    outward: [0, -1],
    ways: [
      [1, 0],
      [1, 0],
    ],
    length: '100.0',
    allowance: '12.0',
    finish: 'plain',
    corner: 'mitre',
    corner_set: 'mitre',
    turn_under: '',
    cord: '',
    elastic: '',
    rule: 'plain 12',
    by_rule: false,
    bare: false,
    folds: [],
    folds_back: false,
    band: '',
    beads: [],
    on_seam: false,
    radius: null,
    ...more,
  }
}

export function aPanel(id: string, more: Partial<Panel> = {}): Panel {
  return {
    id,
    name: id,
    cloth: 'canvas',
    count: 1,
    hand: 'single',
    on_fold: false,
    grain_deg: 90,
    way_up: '',
    mitre_limit: 3,
    instruction: 'cut 1 · canvas',
    rings: [['a', 'b', 'c', 'd'].map((e) => anEdge(`${id}-${e}`, { own_name: e, name: e }))],
    cutting_lines: [],
    draft: { corners: [], findings: [], fit: [], marks: [], notches: [], workings: [] },
    hems: [],
    hem_cloth: [],
    fit: {},
    has_ease: false,
    features: [],
    notch_texts: [],
    refusal: null,
    lies: null,
    as_set: null,
    companions: [],
    box: [0, 0, 100, 100],
    width: '100.0',
    height: '100.0',
    ...more,
  }
}

const CORNERS: [number, number][] = [
  [0, 0],
  [300, 0],
  [300, 200],
  [0, 200],
]
export function aShape(more: Partial<Shape> = {}): Shape {
  const edges = CORNERS.map((start, k) => ({
    name: 'ABCDA'.slice(k, k + 2),
    kind: 'line',
    path: '',
    start,
    middle: start,
    ways: [
      [1, 0],
      [1, 0],
    ] as [[number, number], [number, number]],
    length: '300.0',
    strays: '0.1 mm',
    radius: null,
  }))
  const joints = CORNERS.map((point, k) => ({ letter: 'ABCD'[k] ?? '', point, smooth: false, next_kind: 'auto' }))
  return {
    rings: [{ trace: '', edges, joints }],
    box: [0, 0, 300, 200],
    width: '300.0',
    height: '200.0',
    tolerance: '0.5',
    tolerance_mm: 0.5,
    error: '0.2 mm',
    error_mm: 0.2,
    verdict: 'Good.',
    tape: [],
    steps: [],
    parts: [],
    photo: null,
    outline: 0,
    on_photo: true,
    before: [],
    ...more,
  }
}

export function aPhoto(id: number, more: Partial<Photo> = {}): Photo {
  return {
    id,
    together: [id],
    kind: 'piece',
    side: 'centre',
    height: '',
    if_higher: null,
    name: `photo ${id}.jpg`,
    status: 'done',
    stage: '',
    share: 1,
    sentence: '',
    warnings: [],
    sheets: [],
    width: 4000,
    height_px: 3000,
    by_hand: null,
    dpi: '',
    small_girth: '',
    large_girth: '',
    by_profile: true,
    outlines_px: [],
    ...more,
  }
}

const STATIONS: Schemas['StationView'][] = [
  { key: 'brief', title: 'Brief', share: 1, note: 'done' },
  { key: 'shape', title: 'Shape', share: 1, note: '± 0.2 mm' },
  { key: 'draft', title: 'Draft', share: 0.5, note: '2 need an allowance' },
  { key: 'make', title: 'Make', share: 0, note: '' },
]
export function aJob(more: Partial<Job> = {}): Job {
  return {
    id: 7,
    ticket: 3,
    revision: 4,
    name: 'Splash tray',
    for_whom: '',
    due: null,
    unit: 'mm',
    brief: { covers: 'a tray', goes_on: '', looseness: '', near: [], notes: '', sticks_out: '', cloth: '', against: [] },
    cautions: [],
    clearance: null,
    stations: STATIONS,
    next_step: { sentence: 'print and cut', station: 'make', severity: 'fine' },
    test_mark: '100 mm',
    covers: [],
    cut_pieces: 1,
    joins: [],
    corner_dots: [],
    cloth: [],
    checks: [],
    house: { rules: { seam: '12.0', hem: '25.0' }, cloths: [] },
    photos: [],
    pieces: [],
    open_piece: 'piece1',
    panels: [aPanel('lid'), aPanel('strip')],
    shape: aShape(),
    can_undo: true,
    can_redo: false,
    last_change: 'Edge allowance set',
    kept_at: '2026-11-20T09:00:00Z',
    print_scale: [1, 1],
    sheet_scale: [1, 1],
    sheet_distances: [],
    ...more,
  }
}
