/** SWR beyond this is off any linear scale that still shows the useful part. */
export const SWR_AXIS_TOP = 6
