/** How much noise the surroundings make (ITU-R P.372, man-made noise). */
export const environments = ['city', 'residential', 'rural', 'quiet rural'] as const
export type Environment = (typeof environments)[number]
