/** What the screen shows of a sheet: a zoom, and where the sheet's corner lies. */
export interface View {
  /** CSS pixels for one millimetre. */
  zoom: number
  /** The sheet's top left corner, in CSS pixels of the viewport. */
  x: number
  y: number
}
