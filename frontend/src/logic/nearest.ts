const STOPS = 48

/** Of paths drawn on the screen that lie near a place of the window, the nearest one's index; -1 where there is none within
 * `within` px. */
export function nearestPath(paths: readonly SVGGeometryElement[], at: { x: number; y: number }, within: number): number {
  let best = -1
  let least = within
  paths.forEach((path, k) => {
    const onScreen = path.getScreenCTM()
    if (!onScreen) return
    const length = path.getTotalLength()
    for (let i = 0; i <= STOPS; i++) {
      const p = path.getPointAtLength((length * i) / STOPS).matrixTransform(onScreen)
      const away = Math.hypot(p.x - at.x, p.y - at.y)
      // between two stops the path comes nearer by up to half their distance
      if (away < least) [best, least] = [k, away]
    }
  })
  return best
}

/** Of places, the nearest one's index; -1 where there is none within so far. */
export function nearestPlace(places: readonly { x: number; y: number }[], at: { x: number; y: number }, within: number): number {
  const away = places.map((p) => Math.hypot(p.x - at.x, p.y - at.y))
  const least = Math.min(...away)
  return least <= within ? away.indexOf(least) : -1
}
