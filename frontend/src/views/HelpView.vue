<script setup lang="ts">
import { TOLD } from '../logic/shortcuts'
import AppMark from '../ui/AppMark.vue'

document.title = 'Help · Ypsicline'
</script>

<template>
  <main class="help">
    <header>
      <AppMark />
      <h1>How a photograph becomes a pattern</h1>
    </header>
    <ol>
      <li>
        <h2>Print reference sheets</h2>
        <p>
          Four are enough for most pieces: <a href="/api/sheets.pdf?paper=a4&count=4">A4</a>,
          <a href="/api/sheets.pdf?paper=letter&count=4">Letter</a>, <a href="/api/sheets.pdf?paper=a3&count=4">A3</a>; for large work
          <a href="/api/sheets.pdf?paper=a4&count=12">all twelve</a>. Print at 100 %, matt paper, then measure the 100 mm or the 4 in marks
          with a steel rule. If they are off, type at Shape what they measure.
        </p>
      </li>
      <li>
        <h2>Lay and photograph</h2>
        <p>
          Press the piece flat on a table of another shade. Lay sheets on all four sides, two fingers’ breadth away, flat, and best whole in
          the picture. Hold the camera over the middle and look straight down. The outline is surest inside the ring of sheets.
        </p>
        <p>
          Is it wider than one photo? Ring it with sheets, take photos that overlap so that neighbours show two sheets in common, and send
          them together. Does its outline lie above the sheets, like the top of a board? Type by how much. Did you draw round it? Choose “a
          pen line”: gaps, centre lines and notes on the paper do no harm.
        </p>
        <p>
          Dots instead of a line? Choose “a ring of marks”, or “a rolled trace” for the two rows of dots of a cone rolled once along paper.
          A scan needs no sheets: type its dots per inch; tiles that overlap by a hand’s breadth are joined.
        </p>
        <p>
          What can’t be photographed is entered by its measurements: four sides and a diagonal, a rectangle, a girth, offsets from a base
          line, a worn cover on and off its frame, or touches of a digitising tablet.
        </p>
        <p>
          An old cover cut open along its seams: lay all its pieces flat in one photo, point at each and name it. What was captured is where
          the old cloth ended; “An old piece” takes its allowances off, edge by edge.
          <RouterLink to="/cameras">Calibrate your camera once</RouterLink> and single photos become surer.
        </p>
        <p>
          One sheet beside the piece serves, four round it are surer. Is the wrong thing taken for the piece, or nothing? “Point at the
          piece” in its photo, and if need be at what isn’t it; one place is mostly enough. Where the edge isn’t sure it is drawn in dashes
          with how far it may be off: look along it, and mend it or say that it is right, before a panel is made of it.
        </p>
        <p>
          Where the picture is hard, help: “Paint” a few strokes over what is piece and what is table, or “Walk the edge” and point along
          it; the way snaps to the strongest edge. Each correction is kept as a step that can be switched off, and survives measuring again.
        </p>
        <p>Never cover or lay paper on anything hot or running.</p>
      </li>
      <li>
        <h2>True it up</h2>
        <p>
          The outline comes back with its error, ± so much. Corners are diamonds, smooth joints are rings: drag them, add them, remove them.
          Point at an edge to make it a line, an arc or a smooth curve. Hold it against your tape: choose a corner, “Measure from here”,
          choose the other, and type what the tape says. A thing that is the same on both sides is folded: choose a corner, “Fold from
          here”, choose where the fold ends. If the tape is right, scale to it, which keeps the shape, or bend to it, which changes as
          little as meets it.
        </p>
      </li>
      <li>
        <h2>Draft</h2>
        <p>
          Make a panel of the outline. Choose edges and give each its allowance and finish. Dotted bands are plain, hatched ones are hems
          with their fold line, beads are bound edges, cut on the seam line. An edge in red has no allowance yet. An allowance goes by the
          house’s rules until you type another; the rules and your cloths are at “House”.
        </p>
        <p>
          “Ease” takes the object’s outline to the seam line and shows the sum. “Details” puts darts, pleats, apertures, marks and layers on
          a panel: choose an edge or point at a place. A dart can be turned about its point to another place; what lies on its side goes
          along. “Pad” fills it and shows how far its corners stand out; let it propose tapers. “All edges” sets many at once.
        </p>
        <p>
          Or begin with a tape: “Draft a cover from measures” asks which kind of cover it is and what the tape says, and drafts all its
          panels with their joins, sums and what to buy. Other measures draft it again; what you changed by hand stays where it still makes
          sense. At “Joins” each join is walked, and edges are joined by pointing at both sides.
        </p>
        <p>“Move panels” lays them out: drag, or use the keys below. “Folded” shows hems as they will lie; one that stands out is said.</p>
      </li>
      <li>
        <h2>Check</h2>
        <p>
          All that is found, the worst first: mend it, or live with it and say why. A cover from measures is put together in space, where a
          wrong panel looks wrong. Ready to cut is a job with nothing open.
        </p>
      </li>
      <li>
        <h2>Make</h2>
        <p>
          Print at 100 %, measure the marks, trim the pages’ frames and lay each on the dashed line of the one before. If the printer is a
          little off, type what the marks measure: the next print makes up for it. If you mark straight on the cloth, get the marking-out
          drawing instead: every corner from one datum, diagonals to check, radii and ordinates.
        </p>
      </li>
    </ol>
    <h2>Lengths</h2>
    <p>
      Type them as you would write them: 12 3/8, 12½, 3' 2 1/2", 31.4 cm, 1.2 m, 314. A bare number is in the job’s unit, which the button
      at the top changes.
    </p>
    <h2>Keys</h2>
    <dl>
      <template v-for="[key, what] in TOLD" :key="key"
        ><dt>{{ key }}</dt>
        <dd>{{ what }}</dd></template
      >
    </dl>
    <p><v-btn to="/">Back to the wall</v-btn></p>
  </main>
</template>

<style scoped>
.help {
  max-width: 760px;
  margin: 0 auto;
  padding: 8px 20px 60px;
  display: flex;
  flex-direction: column;
  gap: 14px;
  font-size: 17px;
}
header {
  display: flex;
  gap: 14px;
  align-items: center;
  min-height: 60px;
}
h1 {
  font-size: 26px;
}
h2 {
  font-size: 19px;
}
ol {
  padding-left: 26px;
  display: grid;
  gap: 16px;
}
li::marker {
  font-weight: 700;
}
a {
  color: var(--woad);
  font-weight: 600;
}
dl {
  display: grid;
  grid-template-columns: max-content 1fr;
  gap: 8px 20px;
}
dt {
  font-weight: 700;
}
dd {
  margin: 0;
}
</style>
