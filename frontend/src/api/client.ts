/** The one typed client, and the shapes it brings. All of them are generated from the server's own models. */
import createClient from 'openapi-fetch'

import type { components, paths } from './schema'

type Schemas = components['schemas']
export type Assessment = Schemas['Assessment']
export type Basis = 'measured' | 'label' | 'inferred' | 'default'
export type Board = Schemas['Board-Output']
export type Build = Schemas['Build-Output']
export type CellCandidate = Schemas['CellCandidate']
export type ChargeSummary = Schemas['ChargeSummary']
export type Choice = Schemas['Choice']
export type Finding = Schemas['Finding']
export type Cell = Schemas['Cell-Output']
export type CellMatch = Schemas['CellMatch']
export type Comparison = Schemas['Comparison']
export type InventoryChoice = Schemas['InventoryChoice']
export type Alarm = Schemas['Alarm']
export type FirstCharge = Schemas['FirstCharge']
export type LiveNews = Schemas['LiveNews']
export type SimulatedBench = Schemas['SimulatedBench']
export type Trainer = Schemas['Trainer']
export type TrainerGrade = Schemas['TrainerGrade']
export type SheetReply = Schemas['SheetReply']
export type Bay = Schemas['Bay-Output']
export type FitAnswer = Schemas['FitAnswer']
export type FitReply = Schemas['FitReply']
export type Opening = Schemas['Opening']
export type Placement = Schemas['Placement']
export type Sweep = Schemas['Sweep']
export type WiringReply = Schemas['WiringReply']
export type LogReply = Schemas['LogReply']
export type Procedure = Schemas['Procedure']
export type Grade = Schemas['Grade']
export type StoredPhoto = Schemas['StoredPhoto']
export type Outlook = Schemas['Outlook']
export type OwnPart = Schemas['OwnPart']
export type PhotoMarks = Schemas['PhotoMarks-Input']
export type SizeReading = Schemas['SizeReading']
export type Payback = Schemas['Payback']
export type StoredProject = Schemas['StoredProject']
export type Level = Finding['level']
export type NextReading = Schemas['NextReading']
export type RegulatorOption = Schemas['RegulatorOption']
export type Part = Schemas['Part']
export type PathNode = Schemas['PathNode']
export type Problem = Schemas['Problem']
export type Project = Schemas['Project-Output']
export type ProjectInput = Schemas['Project-Input']
export type RulerBand = Schemas['RulerBand']
export type RunSummary = Schemas['RunSummary']
export type ProjectLine = Schemas['ProjectLine']
export type SmallPartUse = Schemas['SmallPartUse']
export type CalibrationOffer = Schemas['CalibrationOffer']
export type Prediction = Schemas['Prediction-Output']
export type Station = Finding['station']
export type ReferenceTables = Schemas['ReferenceTables']
export type BatterySize = Schemas['BatterySize']
export type WindowSummary = Schemas['WindowSummary']

export const api = createClient<paths>({ baseUrl: '/' })

/** What an answer says when it is a refusal; a plain sentence also where the server cannot be reached. */
export function sentenceOf(error: unknown): string {
  const problem = error as Partial<Problem> | undefined
  return problem?.detail ?? 'The server does not answer. Is Pocket Spark still running?'
}
