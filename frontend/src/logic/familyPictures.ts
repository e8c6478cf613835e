/** Our drawings of the families of covers, in a field of 120 × 90: what it looks like, and where the tape goes for each of
 * its chief measures, by the measure’s name. */
export interface FamilyPicture {
  /** Lines of the thing. */
  lines: string
  /** Lines that are seen through it, or folded, dashed. */
  hidden?: string
  measures: Readonly<Record<string, string>>
}

export const FAMILY_PICTURES: Readonly<Record<string, FamilyPicture>> = {
  band_over_profile: {
    lines: 'M14 76V40Q14 26 28 26H50Q64 26 64 40V76Z M28 26L60 10H82Q96 10 96 24V60L64 76 M64 40L96 24 M50 26L82 10',
    measures: {
      height_front: 'M7 28V76',
      height_back: 'M71 40V76',
      depth: 'M14 82H64',
      width: 'M66 82L98 66',
      radius_front: 'M16 36Q18 28 26 28',
      radius_back: 'M52 28Q60 28 62 36',
    },
  },
  box_cover: {
    lines: 'M14 34V76H70V34Z M14 34L42 14H98L70 34 M98 14V56L70 76',
    measures: { width: 'M14 82H70', depth: 'M74 80L102 60', height: 'M7 34V76', corner_radius: 'M16 40V36H22' },
  },
  cap: {
    lines: 'M22 24A38 11 0 0 1 98 24A38 11 0 0 1 22 24 M22 24V66Q60 84 98 66V24 M22 60Q60 78 98 60 M98 62q10 4 8 14',
    measures: {
      girth: 'M22 44A38 11 0 0 0 98 44',
      height: 'M12 24V62',
      sleeve_depth: 'M104 24V24 M112 60V68',
      foot_tuck: 'M22 68q4 6 12 8',
    },
  },
  cone_sleeve: {
    lines: 'M40 18A20 6 0 0 1 80 18A20 6 0 0 1 40 18 M40 18L18 70A42 11 0 0 0 102 70L80 18 M60 24V80',
    measures: {
      girth_top: 'M39 22A20 6 0 0 0 81 22',
      girth_bottom: 'M20 66A42 11 0 0 0 100 66',
      slant: 'M88 18L110 70',
      height: 'M8 18V74',
    },
  },
  drape: {
    lines: 'M26 80V24Q26 12 40 10H70Q82 12 82 24V80 M82 24L104 14V68L82 80 M40 10L62 2H92Q104 4 104 14 M26 80H82',
    measures: {
      girth_over: 'M20 80V24Q20 6 40 4H70',
      width: 'M26 86H82',
      drop_margin: 'M12 80V88',
      ties_height: 'M88 56V78',
      aperture_x: 'M26 44H50',
      aperture_y: 'M50 46V80',
      pocket_height: 'M76 60V80',
    },
  },
  drop_cover: {
    lines: 'M12 34L40 14H104L78 34Z M12 34V66H78V34 M78 66L104 46V14 M12 66q4 6 10 6H70q6 0 8 -6',
    hidden: 'M22 72L30 62H88',
    measures: {
      width: 'M12 28L40 8',
      length: 'M42 8H104',
      drop: 'M5 34V66',
      tuck_under: 'M82 68q-2 8 -12 8',
      diagonal: 'M20 33L98 15',
      corner_radius: 'M16 40V36H22',
    },
  },
  drum: {
    lines: 'M20 26A40 12 0 0 1 100 26A40 12 0 0 1 20 26 M20 26V66A40 12 0 0 0 100 66V26',
    measures: { girth: 'M20 46A40 12 0 0 0 100 46', diameter: 'M22 26H98', height: 'M110 26V66' },
  },
  elasticated_top: {
    lines: 'M10 46Q10 20 38 20H96Q112 24 112 46Q112 68 96 72H38Q10 72 10 46Z',
    hidden: 'M22 46Q22 32 42 32H92Q101 34 101 46Q101 58 92 60H42Q22 60 22 46Z',
    measures: { length: 'M10 80H112', width: 'M4 20V72', wrap_under: 'M101 46H112', thickness: 'M60 60V72', strap_at: 'M66 34V58' },
  },
  envelope_sling: {
    lines: 'M24 14H96V78H24Z M30 20H90 M34 30v8 M34 44v8 M34 58v8 M86 30v8 M86 44v8 M86 58v8',
    measures: {
      width_on: 'M24 8H96',
      length_on: 'M16 14V78',
      width_off: 'M28 84H92',
      length_off: 'M104 18V74',
      slot_length: 'M40 44V52',
      slot_inset: 'M24 48H34',
    },
  },
  fitted_slip: {
    lines: 'M20 40Q20 12 42 12H78Q100 12 100 40V80H88V58H32V80H20Z M32 58V44H88V58 M42 12V44 M78 12V44',
    measures: { margin: 'M8 44H20', tuck_in: 'M34 44q26 8 52 0' },
  },
  flat_panel: {
    lines: 'M16 18H104V74H16Z',
    hidden: 'M22 24H98V68H22Z',
    measures: { width: 'M16 82H104', length: 'M8 18V74', corner_radius: 'M94 20q8 0 8 8' },
  },
  lined_shell: {
    lines: 'M24 80V40Q24 12 54 12H66Q96 12 96 40V80Z',
    hidden: 'M30 80V42Q30 18 56 18H64Q90 18 90 42V80',
    measures: { width: 'M24 86H96', height: 'M14 12V80', radius: 'M28 32q4 -14 18 -16' },
  },
  pad: {
    lines: 'M20 70Q60 78 100 70Q94 44 88 20Q60 13 32 20Q26 44 20 70Z',
    measures: {
      front: 'M20 82H100',
      right: 'M108 70L96 20',
      back: 'M32 8H88',
      left: 'M12 70L24 20',
      diagonal: 'M22 69L87 21',
      loft: 'M60 38V54',
    },
  },
  retrofit_aperture: {
    lines: 'M8 30Q60 18 112 30V74Q60 84 8 74Z M72 50a12 12 0 1 1 -24 0a12 12 0 1 1 24 0 M60 62V79',
    hidden: 'M52 50V4 M68 50V4',
    measures: { clearance: 'M68 50H72', hem: 'M72 50H78', cord_exit: 'M60 86H84' },
  },
  reversible_cover: {
    lines: 'M12 46V76H70V46Z M12 46L24 26H92L70 46 M92 26L104 34V62L70 76',
    hidden: 'M17 50V76 M65 50V76 M17 50H65',
    measures: {
      width: 'M12 83H70',
      depth: 'M74 81L108 66',
      height_left: 'M5 46V76',
      height_right: 'M110 34V62',
      height_front: 'M62 50V76',
    },
  },
  wrapped_shell: {
    lines: 'M18 54Q16 24 44 16Q78 6 100 32Q112 56 90 72Q58 84 30 74Q20 68 18 54Z M44 16Q56 44 30 74 M56 40Q80 36 104 46',
    measures: { gusset_length: 'M58 46Q80 42 100 50', gusset_width: 'M78 34V44' },
  },
}
