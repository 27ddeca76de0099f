/** Salt Line's physics: plain data in, plain data out. Whatever is not named here is internal. */

// Numbers, units and what is typed
export { type Complex, complex, magnitude } from './complex.ts'
export { DB_PER_S_UNIT, REFERENCE_OHM } from './constants.ts'
export { InputError } from './errors.ts'
export { lossDb, wattsToDbm } from './units/decibel.ts'
export { conversionOf, type Dimension, dimensionOfUnit } from './units/dimensions.ts'
export { fieldText } from './units/fieldText.ts'
export {
  dbNumber,
  decimals,
  floorPower,
  formatAmpere,
  formatCapacitance,
  formatDb,
  formatFrequency,
  formatImpedance,
  formatInductance,
  formatLength,
  formatPercent,
  formatPower,
  formatSwr,
  formatVolt,
  lengthFigure,
  powerFigure,
  rangeText,
  type LengthUnit,
  type PowerUnit,
  significant,
} from './units/format.ts'
export { type ParsedQuantity, parseQuantity } from './units/quantity.ts'

// Transmitters, amplifiers and modes
export { amplifierOutputW, driveForW, inputImpedance } from './source/amplifier.ts'
export {
  heatShareOf,
  meanToPeakOf,
  type ModeId,
  modeIds,
  modeOf,
  modeTable,
} from './source/modes.ts'
export { nearestChannel } from './source/nearestChannel.ts'
export { foldbackAt } from './source/transmitter.ts'

// Cables and parts
export { type AttenuationFit, fitAttenuation, type FitPoint } from './cables/attenuationFit.ts'
export { type CableClass, cableClasses } from './cables/cableClass.ts'
export { findsCable, tradeSizeOf } from './cables/search.ts'
export { type CableConstruction, cableFromConstruction } from './cables/construction.ts'
export { type CableClues, identifyCable } from './cables/identify.ts'
export {
  attenuationDbPer100m,
  type Cable,
  conductorDbPer100m,
  dielectricDbPer100m,
  isExtrapolated,
} from './line/cable.ts'
export { lineConstants, matchedLossDb } from './line/constants.ts'
export { type PartClass, partClasses } from './parts/partClass.ts'

// What stands between transmitter and antenna
export { padLossDb, padPasses } from './stages/pad.ts'
export { jointOhm } from './stages/series.ts'
export type { Stage } from './stages/stage.ts'
export { withCable } from './stages/withCable.ts'
export { duplexerBranch } from './stages/duplexer.ts'
export { stubImpedance, stubStress, stubVoltageRise } from './stages/stub.ts'
export type { TunerStage } from './tuner/kinds.ts'
export {
  aidedInput,
  type AidedInput,
  bestShunt,
  type InputAid,
  stageOfAid,
} from './aids/inputAid.ts'
export { equalResistors, nearestStandard, padValues } from './aids/resistors.ts'

// Antennas
export {
  coverageOf,
  interpolateReflection,
  type Load,
  phaseUnknown,
  reflectionAt,
  type SweepLoad,
} from './load/load.ts'
export { impedanceOf, returnLossDb, rhoOfSwr, swrOf } from './load/reflection.ts'
export type { SwrReading } from './load/resonator.ts'
export { swrAtLoad } from './load/seenFromInput.ts'
export { fitOfBand, rangeOfBand, type SwrBand, withReading } from './load/swrBands.ts'
export { drawingGrid } from './load/thin.ts'
export { type FrequencySpan, usableBands } from './load/usableBand.ts'

// A chain solved: powers, losses, ranges
export { type BandSweep, frequencyGrid, sweepBand } from './chain/bandSweep.ts'
export type { Chain, OperatingPoint } from './chain/chain.ts'
export { type Carried, carryToFeedPoint } from './chain/carryToFeedPoint.ts'
export { deembed, deembedSize, deembedSizeRange, feedPointCircle } from './chain/deembed.ts'
export { type Ledger, ledgerOf, type LedgerRow } from './chain/ledger.ts'
export { lengthForLoss, type LossCell, lossTable } from './chain/lossTable.ts'
export { dissipatedDb } from './chain/dissipated.ts'
export {
  type Answer,
  answerChain,
  lineRanges,
  type LineRanges,
  middleW,
  type Spread,
} from './chain/phaseRange.ts'
export { predictions } from './chain/predictions.ts'
export { bothSchools, textbookLineLossDb } from './chain/schools.ts'
export type { Solution, StageState, TunerState } from './chain/solution.ts'
export { netAlongLine, solveChain } from './chain/solve.ts'
export {
  type ToleranceName,
  toleranceNames,
  type Tolerances,
  usualTolerances,
} from './chain/tolerances.ts'
export { drawnChain, stationDraws } from './chain/drawStation.ts'
export type { Emission } from './source/modes.ts'
export { chainUncertainty, type ChannelUncertainty } from './chain/uncertainty.ts'
export {
  type PlaceAnswer,
  type TunerPlace,
  tunerPlaces,
  worthOfTuner,
  worthOverBand,
  type WorthSweep,
} from './chain/worthTuner.ts'
export { type PlaceRanges, worthUncertainty } from './chain/worthUncertainty.ts'

// Comparing and planning
export { type Difference, differences, type Side, type Surer } from './compare/difference.ts'
export { type PartGain, partGains } from './compare/parts.ts'
export { externalNoise, receiveCostDb } from './compare/receive.ts'
export {
  plan,
  type Plan,
  type PlanCandidate,
  type PlanMember,
  type PlanRequest,
  type PlanSection,
} from './plan/plan.ts'

// What parts may carry
export { type Fault, faultsOf, keyingTime } from './limits/faults.ts'
export {
  limitsUncertainty,
  type LimitsUncertainty,
  type StressRange,
  type Use,
} from './limits/limitsUncertainty.ts'
export { checkLimits, mostPower, type MostPower, type RatedChain } from './limits/mostPower.ts'
export { profileOf } from './limits/profile.ts'
export { ratedPowerAt, ratingsOf } from './limits/ratings.ts'
export {
  type Standing,
  standingOf,
  stressesOf,
  type Surroundings,
  tightest,
} from './limits/stress.ts'
export type { Stress } from './stages/stress.ts'
export { type SectionVerdict, upgradeTo, worstFaultAt } from './limits/upgrade.ts'

// Readings: what a meter will show, and what they say
export { type ExpectedReading, expectReading, swrRead } from './measure/expectReading.ts'
export { outsideLive } from './measure/liveReading.ts'
export {
  type Compared,
  compareReading,
  type Meter,
  type MeterKind,
  readingDoubtW,
  usualMeter,
} from './measure/meter.ts'
export { type AntennaChange, type Cause } from './diagnosis/causes.ts'
export {
  diagnose,
  type Diagnosis,
  type Explanation,
  type Weighed,
  weigh,
} from './diagnosis/diagnose.ts'
export { type Prepared, prepare } from './diagnosis/likelihood.ts'
export {
  type Case,
  type Channel,
  type MeterReading,
  type Site,
  withLoads,
} from './diagnosis/evidence.ts'
export { type Priors, usualPriors } from './diagnosis/priors.ts'
export { swapLog, type TriedSwap } from './diagnosis/swapEvidence.ts'
export { type NextReading, nextReadings, type ReadingCost } from './diagnosis/nextReading.ts'
export { type NextSwap, nextSwaps } from './diagnosis/nextSwap.ts'
export { type NextSweep, nextSweep } from './diagnosis/nextSweep.ts'
export {
  type HiddenCause,
  type HiddenStation,
  hiddenStation,
  simulateReadings,
} from './diagnosis/simulate.ts'
export { type Reason, reasonsFor } from './diagnosis/reasons.ts'
export {
  type CausePair,
  type TwoThings,
  twoThings,
  type WeighedPairs,
  weighPairs,
} from './diagnosis/pairs.ts'
export {
  LEAST_JUDGED,
  longAgoWords,
  type RoundMean,
  type YearPoint,
  type YearRecord,
  yearSeries,
  type YearSeries,
  type YearSubject,
} from './years/years.ts'
export { sweepRecords, type SweepRecord } from './years/sweepYears.ts'
export { type ReadAgain, readAgain, staysFor, yearsOf } from './years/readAgain.ts'

// Run sheets
export { checkSheet, type Danger, dangersOf } from './runs/check.ts'
export { type ExpandedStep, type RunChannel } from './runs/expand.ts'
export { missingFor } from './runs/fits.ts'
export { type ExpectedStep, expectStep } from './runs/expectStep.ts'
export { afterDone, against, cureOf, type Done, followed, later } from './runs/follow.ts'
export { type Violation } from './runs/invariants.ts'
export {
  type Judged,
  limitsAt,
  meterTells,
  type StepReading,
  stopFor,
  stopForTime,
  type StopReason,
  swrLimitOf,
} from './runs/judge.ts'
export { type Moment, runModel } from './runs/moment.ts'
export { type PlannedStep, planRun } from './runs/plan.ts'
export {
  isKeyed,
  type RunCondition,
  runConditions,
  type RunNeed,
  type RunPlace,
  type RunSheet,
  type RunState,
  type RunStep,
  type StationChange,
  type SweepTarget,
} from './runs/sheet.ts'
export { runSheets } from './runs/sheets/index.ts'
export { chainOfStep, setPowerOf } from './runs/stateOf.ts'
export { type RunStation } from './runs/stepLoad.ts'

// The bench
export { bothEnds } from './bench/bothEnds.ts'
export { builtLoad, type BuiltLoadResult } from './bench/builtLoad.ts'
export {
  dbmOfS,
  levelOf,
  type LevelUnit,
  matchOf,
  type MatchUnit,
  sUnitsOf,
} from './bench/converter.ts'
export {
  calibrate,
  type Calibrated,
  calibratedMeter,
  type CalibrationPoints,
  correctedW,
} from './bench/calibration.ts'
export { ALUMINIUM_J_PER_G_K, closedBox, heatPath, type HeatPathResult } from './bench/heatPath.ts'
export { type LeadCompared, compareLeads, type LeadReading } from './bench/leads.ts'
export { modulationDepth } from './bench/modulation.ts'
export { type CableVerdict, judgeCable, sinceLastTime } from './bench/judgeCable.ts'
export { onePort } from './bench/onePort.ts'
export { probePower } from './bench/probe.ts'
export { chooseRange } from './bench/rangeChoice.ts'
export { type MeasuredLoss, substitution } from './bench/substitution.ts'
export { throughLine } from './bench/throughLine.ts'
export { twoMeters } from './bench/twoMeters.ts'
export {
  distanceToFault,
  electricalLength,
  firstDipHz,
  velocityFactor,
} from './bench/velocityFactor.ts'

// Files and tables
export { cellNumber, cellProblem, decimalSign } from './formats/cells.ts'
export { headingUnit, lossLengths, type LossPer } from './formats/headings.ts'
export { readSheetTable, type SheetTable } from './formats/sheetTable.ts'
export { sweepFromTable } from './formats/sweepFromTable.ts'
export {
  type AngleUnit,
  type ColumnMapping,
  type FrequencyUnit,
  frequencyUnits,
  guessMapping,
  readSweepTable,
  type SweepForm,
  sweepForms,
  type SweepTable,
} from './formats/sweepTable.ts'
export { type OnePortSweep, readTouchstone, writeTouchstone } from './formats/touchstone.ts'
export { TouchstoneError } from './formats/touchstoneRecords.ts'
export { readTwoPort, type Thinned, thinTwoPort } from './formats/touchstoneTwoPort.ts'

// Statistics
export type { Range } from './statistics/quantile.ts'
export type { Propagated } from './statistics/propagate.ts'
export { pick, type Random, seeded } from './statistics/random.ts'

// Drills: simulated benches with a hidden fault or a task, and what they teach.
export {
  hintOf,
  jacketOf,
  type Lesson,
  lessons,
  menuShowsReduced,
  strategyNeeds,
  type Waypoint,
  waypoints,
} from './drills/debrief.ts'
export {
  analyserPlanes,
  type SweepSpan,
  practiceSweep,
  type TakenSweep,
  usualSpan,
} from './drills/analyser.ts'
export {
  type Bench as ExerciseBench,
  type Check,
  type Exercise,
} from './drills/exercises/exercise.ts'
export { drawExercise, exercises, scoreExercise } from './drills/exercises/index.ts'
export {
  type Fault as DrillFault,
  type FaultKind,
  faultKinds,
  type Finding,
  findings,
  parOf,
  partOf,
} from './drills/faults.ts'
export { findBench, meterOfSettings, noted, placeName } from './drills/findBench.ts'
export {
  ANALYSER_FROM,
  type Answer as DrillAnswer,
  type FindDrill,
  findDrill,
  findingsOn,
  hiddenOf,
  type Judgement,
  judge,
  kindsOf,
  type Level,
  levels,
  readingOf,
  seedNumber,
  sizeOfFault,
  trueNetW,
} from './drills/findDrill.ts'
export { bestNext, findingsOf, learn, type Learned } from './drills/learner.ts'
export {
  act,
  type Action,
  begin,
  type Control,
  type Face,
  heatAt,
  keyDownAt,
  needleAt,
  type Play,
  playThrough,
  type Settings,
  type Simulation,
  type Trace,
  type Trouble,
  type TroubleKind,
} from './drills/play.ts'
export { type PracticeStation, practiceMeters, VOICE_POINT } from './drills/practiceStations.ts'
export { type Effort, type Score, scoreOf } from './drills/score.ts'
export { type Trend, trendOf } from './statistics/trend.ts'
export { impedanceDips, returnLosses } from './bench/fromSweep.ts'
export { type FarEnd, type ReadPoint, withEnd } from './chain/farEnd.ts'
export { alongLine, type AlongLine, expectedSweep } from './sweep/alongLine.ts'
export { type AnalyserErrors, usualAnalyser } from './sweep/analyserErrors.ts'
export type { Reflections } from './sweep/evenSweep.ts'
export { type FittedFigure, fitSweep, type SweepFit } from './sweep/fit.ts'
export { pieceAlone } from './sweep/pieceAlone.ts'
export { ofTwoPorts, readReflections } from './formats/reflections.ts'
export { type Outside, outsideOf, type SweepRange, sweepRange } from './sweep/range.ts'
export {
  type NamedFigure,
  namedFigures,
  sameFigure,
  sweepChanges,
  type SweepChange,
  type SweepDip,
  type SweepFigure,
  type SweepFigureName,
  type SweepFigures,
  sweepFigures,
} from './sweep/figures.ts'
export type { LineFinding } from './sweep/findings.ts'
export { bandAt, gainAt, type RadiatedKind, radiatedW, windowAverageW } from './limits/radiated.ts'
