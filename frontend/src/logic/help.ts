/** A short page of help: one subject, a drawing of it, a few sentences. */
export interface HelpPage {
  title: string
  text: readonly string[]
  /** The drawing, 280 × 130: ink for cloth and paper, madder for what is done, woad for folds, sheets and arrows. */
  ink?: readonly string[]
  madder?: readonly string[]
  woad?: readonly string[]
}

export const HELP = {
  photo: {
    title: 'Photograph the piece',
    ink: ['M90 36Q140 8 190 36L184 104H96Z'],
    woad: [
      'M40 30H72V74H40ZM208 30H240V74H208ZM112 4H168V16H112ZM112 112H168V126H112Z',
      'M46 36h8v8h-8zM58 48h8v8h-8zM214 36h8v8h-8zM226 48h8v8h-8z',
    ],
    text: [
      'Print reference sheets at 100 % on matt paper and measure their marks with a steel rule.',
      'Press the piece flat on a table of another shade. Lay sheets on all four sides, two fingers’ breadth away, flat and ' +
        'whole in the picture; hold the camera over the middle and look straight down. The outline is surest inside the ring of ' +
        'sheets.',
      'Wider than one photo? Take several that overlap, neighbours with two sheets in common, and send them together. Never ' +
        'cover or lay paper on anything hot or running.',
    ],
  },
  enter: {
    title: 'Type in what the tape says',
    ink: ['M70 108L84 20 210 30 222 112Z'],
    madder: ['M84 20L222 112M210 30L70 108'],
    text: [
      'What can’t be photographed is entered: four sides and a diagonal, a rectangle, a girth, offsets from a base line, a ' +
        'worn cover on and off its frame, touches of a digitising tablet.',
      'Four sides alone fix no shape: one diagonal does, and both show by how much the tape contradicts itself.',
    ],
  },
  true_up: {
    title: 'True up the outline',
    ink: ['M40 108H238V50Q220 14 140 16T40 60Z'],
    madder: ['M32 108H48M40 100V116M230 108H246M238 100V116', 'M231 46L245 54'],
    text: [
      'At a corner both lines run past one another; a tick is where the edge runs on smoothly. Drag either, nudge it with the ' +
        'arrow keys, add one, remove one.',
      'Point at an edge to make it straight, an arc or a curve. The yellow band is how far the outline may be off; dashes are ' +
        'where the photo leaves it in doubt: look there before a panel is made.',
    ],
  },
  tape: {
    title: 'Hold it against the tape',
    ink: ['M50 104Q44 26 140 24T232 96L226 108H60Z'],
    woad: ['M52 92H230'],
    madder: ['M52 84V100M230 84V100'],
    text: [
      'Point at two corners, or at an edge: a measure hangs there, and what your tape says is typed into it.',
      'If the tape is right, scale to it, which keeps the shape, or bend to it, which changes as little as meets it. Doing ' +
        'neither trusts the outline.',
    ],
  },
  fold: {
    title: 'Fold it along its middle',
    ink: ['M140 18Q60 20 60 74T140 114'],
    madder: ['M140 18Q224 24 216 74T140 114'],
    woad: ['M140 8V122'],
    text: [
      'What is the same on both sides is folded: point at the corner where the fold begins and at the one where it ends. Both ' +
        'halves become their average, or one of them; it is said how far they lay apart.',
    ],
  },
  paint: {
    title: 'Paint where it is wrong',
    ink: ['M60 104V44Q140 0 220 44V104Z'],
    madder: ['M206 84Q196 70 206 58'],
    woad: ['M232 90Q240 74 234 60'],
    text: [
      'A few strokes over what is piece and what is table will do. What you painted is kept as a step that can be switched ' +
        'off, and survives measuring again.',
    ],
  },
  walk: {
    title: 'Walk along the edge',
    ink: ['M40 96Q90 20 150 60T244 26'],
    madder: ['M40 96h.01M92 52h.01M150 60h.01M244 26h.01'],
    text: [
      'Point along the edge; between two places the way snaps to the strongest edge. Begin and end on the outline where it is ' +
        'still right, or go all the way round. Where no edge shows the way is straight and dotted: set places closer together ' +
        'there, and look along it before a panel is made.',
    ],
  },
  point: {
    title: 'Point at the piece',
    ink: ['M50 30H230V112H50Z', 'M100 90V64Q140 36 180 64V90Z'],
    madder: ['M134 76h12M140 70v12'],
    text: [
      'Is the wrong thing taken for the piece, or nothing? Point at the piece in its photo, and if need be at what isn’t it; ' +
        'one place is mostly enough. Several pieces in one photo are pointed at and named one by one.',
    ],
  },
  old: {
    title: 'From old cloth to its seam line',
    ink: ['M46 20H234V112H46Z'],
    woad: ['M60 32H220V100H60Z'],
    madder: ['M46 66H60M220 66H234'],
    text: [
      'Cut an old cover open along its seams and lay its pieces flat. What was captured is where the old cloth ended: its ' +
        'seam line lies further in by the allowance that is still on it, or further out where it was cut away.',
    ],
  },
  steps: {
    title: 'The steps so far',
    ink: ['M40 112H92V86H144V60H196V34H244'],
    woad: ['M56 98H76M160 46H180M212 20H232'],
    madder: ['M106 62 130 82M130 62 106 82'],
    text: [
      'Every correction is a step. Switched off, it counts no more and those after it are done again without it; one that ' +
        'finds its corner gone is skipped, and says so.',
    ],
  },
  allow: {
    title: 'Allowances and finishes',
    ink: ['M40 96H240', 'M40 70H240'],
    woad: ['M56 70L44 96M84 70L72 96M112 70L100 96M140 70L128 96M168 70L156 96M196 70L184 96M224 70L212 96'],
    madder: ['M140 40V64M134 58L140 64 146 58'],
    text: [
      'Point at an edge, step through them with ← →, or take all with a. Figures typed go to the allowance at its tag, by the ' +
        'house’s rule until you type another.',
      'Dotted bands are plain, hatched ones fold back as hems or casings, beads are bound edges, cut on the seam line. Red ' +
        'edges have no allowance yet.',
      'Point at a corner to say how it is cut.',
    ],
  },
  ease: {
    title: 'Ease',
    ink: ['M90 100V54Q140 20 190 54V100Z'],
    woad: ['M76 112V46Q140 2 204 46V112Z', 'M84 74H70M196 74H210M140 28V12'],
    text: [
      'The captured outline is the object’s. Ease takes it out to the seam line: all round for clearance, on the girth, ' +
        'across, up. Less than nothing is a stretch fit. The sum says every step, with what the cloth shrinks and stretches.',
    ],
  },
  take_in: {
    title: 'Darts, pleats, gathers, tapers',
    ink: ['M30 30H110M170 30H250'],
    madder: ['M110 30L140 108 170 30'],
    woad: ['M140 104V34'],
    text: [
      'Point at an edge, then choose what takes it in. A dart’s edge is capped so that it folds even; it can be turned about ' +
        'its point to another place. Let a sheet hang over an edge, and its corners are taken in.',
    ],
  },
  open: {
    title: 'Openings',
    ink: ['M60 14H220V118H60Z'],
    madder: ['M140 42a24 24 0 1 0 .01 0'],
    woad: ['M140 54a12 12 0 1 0 .01 0', 'M140 90V118'],
    text: [
      'For what sticks out: where it is and how thick, with clearance round it. A hem of its own, a facing, binding or an ' +
        'eyelet finishes it; a slit to an edge lets it go round a post. Keep clear of anything hot.',
    ],
  },
  mark: {
    title: 'Notches and marks',
    ink: ['M40 90H240'],
    madder: ['M92 90L100 74 108 90M172 90L180 74 188 90M184 90L192 74 200 90'],
    text: [
      'Notches say what meets what: at a place of an edge, at quarters, at each edge’s middle. Marks say where a tie, a ' +
        'button or an exit goes, which side is wrong, which end is the top.',
    ],
  },
  layer: {
    title: 'Layers',
    ink: ['M90 30H230V96H90Z'],
    woad: ['M76 42V108H216', 'M62 54V120H202'],
    text: [
      'A lining, wadding or foam follows its panel, larger or smaller all round by what you say, cut larger and trimmed back ' +
        'where quilting shrinks it.',
    ],
  },
  join: {
    title: 'Joins',
    ink: ['M30 40H230M30 96H230'],
    madder: ['M80 40L80 96M130 40L130 96M180 40L180 96'],
    woad: ['M230 30h22l-6 10 6 10h-22z'],
    text: [
      'Point at the edges of one side, Shift for more, then at those of the other. Both are walked from end to end; a ' +
        'difference is shown where it sits.',
      'Joins are sewn in the order in which they stand: where one runs over the end of another, that other goes first.',
    ],
  },
  fill: {
    title: 'Fill it as a pad',
    ink: ['M50 66Q48 30 70 30T210 30Q232 30 230 66T210 102 70 102Q52 102 50 66Z'],
    madder: ['M60 22l10 10M220 22l-10 10M60 110l10-10M220 110l-10-10'],
    text: [
      'Two plies filled as tight as they go: how the plan draws in and how far its corners stand out. Tapers take the ears ' +
        'off; the template prints at true size. Loose filling chokes: put it in an inner bag, away from small children.',
    ],
  },
  move: {
    title: 'Move the panels',
    ink: ['M60 30H130V90H60Z'],
    woad: ['M150 44H220V104H150Z', 'M132 60L148 74M140 74H148V66'],
    text: [
      'Drag, or nudge with the arrows; sides catch on one another. r turns, x flips; with Shift several are taken. Where they ' +
        'lie here doesn’t change how they are cut.',
    ],
  },
  measure: {
    title: 'Measure between two places',
    ink: ['M40 30H240V100H40Z'],
    madder: ['M40 30L240 100'],
    text: ['Point at two places on the table; corners and middles catch.'],
  },
  measures: {
    title: 'A cover from measures',
    ink: ['M90 40a50 14 0 1 0 100 0a50 14 0 1 0 -100 0V100a50 14 0 0 0 100 0V40'],
    woad: ['M82 40V100M78 46l4-6 4 6M78 94l4 6 4-6'],
    text: [
      'Say what kind of cover it is and what the tape says: all panels are drafted with their joins, sums and what to buy. ' +
        'Other measures draft it again; what you changed by hand stays where it still makes sense.',
    ],
  },
  check: {
    title: 'Check before you cut',
    ink: ['M50 20H230V112H50Z'],
    madder: ['M70 44H90M80 36V52'],
    woad: ['M70 84l8 8 16-18', 'M108 44H210M108 84H210'],
    text: [
      'All that is found, the worst first, with where it is. Mend it by what is offered, which is tried on the job before, or ' +
        'live with it and say why. Ready to cut is a job with nothing open.',
    ],
  },
  make: {
    title: 'Print and cut',
    ink: ['M60 16H136V120H60ZM144 16H220V120H144Z'],
    madder: ['M78 104V60Q140 20 202 60V104'],
    woad: ['M136 16V120', 'M72 28H92'],
    text: [
      'Print at 100 % and measure the marks: what they measure is typed in, and the next print makes up for it. Trim the ' +
        'pages’ frames and lay each on the dashed line of the one before. Straight on the cloth, use the marking-out drawing.',
    ],
  },
} as const satisfies Record<string, HelpPage>
export type HelpKey = keyof typeof HELP
