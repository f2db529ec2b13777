/**
 * Words of the trade, each with its sentence: told where the word stands as a label, while its field has the caret.
 * Written for somebody with a sheet in one hand.
 */
export const TRADE: Readonly<Record<string, string>> = {
  Kerf: 'How wide the cut is: what the beam or the cutter turns into smoke or chips.',
  'Nominal thickness': 'What the sheet is sold as. Your readings stand above it.',
  'Smallest web': 'The narrowest piece of this sheet that still holds between two cuts.',
  Grain: 'Which way the fibres run. A narrow piece is strong along them, and snaps where they run across it.',
  'K factor': 'Where in the thickness the sheet neither stretches nor shrinks when it is bent: 0 inside, 0.5 in the middle.',
  'Least radius it bears': 'Bent tighter than this, the sheet cracks on its outside.',
  'Stand proud by': 'How far the ends of fingers or tabs stick out, to be sanded flush.',
  'Relief at its ends': 'A small cut beside a bend, so that the sheet does not tear there.',
  'Width of the relief': 'A small cut beside a bend, so that the sheet does not tear there: how wide it is.',
  'Margin to the edge': 'What stays free along the edges of the sheet, where they are crooked or held.',
  'Gap between parts': 'How far apart two finished parts lie. Both cuts run within it, so it is wider than the kerf.',
  'Holding tabs': 'Small bridges that hold a part in the sheet until it is broken out.',
  'Lead-in from the waste': 'The cut begins so far away in the waste: its first mark is not on the part.',
  Datum: 'The place on the bed that the machine counts from.',
  'Stepdown, mm': 'How deep the cutter goes in one pass.',
  'Seating allowance': 'How much deeper both slots are together than they must be, so that the parts sit down fully.',
  'Who compensates for the kerf': 'The line moves out by half the kerf: in this file, or in the program that drives the machine. Never in both.',
  'Drawn from its': 'Which face you look at: the one that is outside when it stands put together, or the other.',
}
