/** How a figure was computed, step by step. */
export interface WorkingStep {
  what: string
  /** The formula with its numbers. */
  sum: string
  result: string
}

export interface Working {
  title: string
  steps: WorkingStep[]
  /** What is assumed, approximated or typical. */
  remarks: string[]
  sources: string[]
}

/** How the loss of a stage is worked out; the frame around it gives the title. */
export type Steps = Omit<Working, 'title'>
