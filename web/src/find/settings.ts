import type { StationKey } from '../frame/stations'

/** What is set and done at each station, as it is called there, for whoever is somewhere else. */
export const SETTINGS: Record<StationKey, readonly string[]> = {
  measure: ['Material', 'Grain', 'Smallest web', 'K factor', 'Least radius it bears', 'Add a stock', 'Add a sheet size', 'Clearance by fit', 'Make a fit comb', 'Make a kerf strip', 'Speed and power from a coupon', 'Keep in the library'],
  shape: ['How many', 'Drawn from its', 'Grown by (minus shrinks)', 'Outline', 'Bends and flanges', 'Corners of the outline', 'Border and smallest gap', 'To design round', 'Named sizes of the project', 'Draw it by hand', 'Scale by', 'Duplicate', 'Mirror'],
  join: ['Fit of all joints', 'Finger joint', 'Cross-lap', 'Tab and slot', 'Splice', 'Captive nut', 'Butt or housing'],
  'lay-out': ['Margin to the edge', 'Gap between parts', 'Look for', 'How parts may lie', 'Add a size or an offcut', 'A picture of the bed or the scrap'],
  prepare: ['Arranged', 'Holding tabs', 'Lead-in from the waste', 'Neighbours a kerf apart share their line: it is cut once', 'Held by', 'Lies at x', 'Lies at y', 'Bed, width', 'Bed, height', 'Datum', 'Programs are in', 'Arcs', 'This sheet was cut', 'Send to the simulated machine'],
  prove: ['Prove again', 'A file from elsewhere'],
  'hand-over': ['Setup sheet', 'Cut list', 'Cut list as CSV', 'How files are written', 'Who compensates for the kerf', 'Strokes in the SVG', 'Part names', '100 mm check square, not cut', 'DXF version', 'Hand in to the operator', 'A cutting service', 'Share', 'A page to look at', 'Save the project to a file', 'Make it a starter'],
}
