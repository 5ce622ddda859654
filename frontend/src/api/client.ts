/** The one typed client, and the shapes it brings. All of them are generated from the server's own models. */
import createClient from 'openapi-fetch'

import type { components, paths } from './schema'
import { t } from '@/words'

type Schemas = components['schemas']
export type Assessment = Schemas['Assessment']
export type Basis = 'measured' | 'label' | 'inferred' | 'default'
export type Beginning = Schemas['Beginning']
export type ClockAnswer = Schemas['ClockAnswer']
export type ShoppingLine = Schemas['ShoppingLine']
export type ShoppingList = Schemas['ShoppingList']
export type Caution = Schemas['Caution']
export type Guide = Schemas['Guide']
export type Board = Schemas['Board']
export type Build = Draft<Schemas['Build']>
export type CellCandidate = Schemas['CellCandidate']
export type ChargeSummary = Schemas['ChargeSummary']
export type ChargingSummary = Schemas['ChargingSummary']
export type Choice = Schemas['Choice']
export type Finding = Schemas['Finding']
export type Cell = Schemas['Cell-Output']
export type CellMatch = Schemas['CellMatch']
export type Comparison = Schemas['Comparison']
export type InventoryChoice = Schemas['InventoryChoice']
export type Alarm = Schemas['Alarm']
export type FirstCharge = Schemas['FirstCharge']
export type LiveNews = Schemas['LiveNews']
export type MeterConnection = Schemas['Connection-Output']
export type MeterToKeep = Schemas['Connection-Input']
export type RealMeters = Schemas['RealMeters']
export type IntakeReading = Schemas['IntakeQuestion']['what']
export type ShownNow = Schemas['ShownNow']
export type TriedMeter = Schemas['TriedMeter']
export type LiveStarted = Schemas['LiveStarted']
export type SimulatedBench = Schemas['SimulatedBench']
export type Trainer = Schemas['Trainer']
export type TrainerGrade = Schemas['TrainerGrade']
export type SheetReply = Schemas['SheetReply']
export type BuiltReply = Schemas['BuiltReply']
export type Opens = Schemas['Opens']
export type Proposal = Schemas['Proposal']
export type ProposalSearch = Schemas['ProposalSearch']
export type Wishes = Schemas['Wishes']
export type Bay = Schemas['Bay']
export type FitAnswer = Schemas['FitAnswer']
export type FitReply = Schemas['FitReply']
export type Opening = Schemas['Opening']
export type Placement = Schemas['Placement']
export type Sweep = Schemas['Sweep']
export type WiringReply = Schemas['WiringReply']
export type KeptLog = Schemas['KeptLog']
export type LogReply = Schemas['LogReply']
export type Procedure = Schemas['Procedure']
export type Grade = Schemas['Grade']
export type ProposedBay = Schemas['ProposedBay']
export type StoredPhoto = Schemas['StoredPhoto']
export type Scenarios = Schemas['Scenarios']
export type ShownFigure = Schemas['ShownFigure']
export type Edit = Schemas['Edit']
export type PartKindFields = Schemas['PartKindFields']
export type PartField = Schemas['PartField']
export type GlossaryTerm = Schemas['GlossaryTerm']
export type OwnPart = Schemas['OwnPart']
export type PhotoMarks = Schemas['PhotoMarks-Input']
export type PrintedLabel = Schemas['PrintedLabel']
export type SizeReading = Schemas['SizeReading']
export type Payback = Schemas['Payback']
export type StoredProject = Schemas['StoredProject']
export type Level = Finding['level']
export type NextReading = Schemas['NextReading']
export type RegulatorOption = Schemas['RegulatorOption']
export type Part = Schemas['ListedPart']
export type RefusedField = Schemas['RefusedField']
export type PathNode = Schemas['PathNode']
export type Problem = Schemas['Problem']
/** As it stands on screen: a field may hold what is no number yet. */
export type Draft<T> = T extends number
  ? number | string
  : T extends object
    ? { [K in keyof T]: Draft<T[K]> }
    : T
export type Project = Draft<Schemas['Project']>
export type RulerBand = Schemas['RulerBand']
export type RunSummary = Schemas['RunSummary']
export type Summary = Schemas['Summary']
export type PairedDevice = Schemas['PairedDevice']
export type PairingOffer = Schemas['PairingOffer']
export type LoadDay = Schemas['LoadDay']
export type LoadUnderstood = Schemas['LoadUnderstood']
export type WorthIt = Schemas['WorthIt']
export type StartUp = Schemas['StartUp']
export type CellTestTold = Schemas['CellTestTold']
export type ListedPack = Schemas['ListedPack']
export type PredictionErrors = Schemas['PredictionErrors']
export type Assignment = Schemas['Assignment']
export type BuildTest = Schemas['BuildTest']
export type TestNews = Schemas['TestNews']
export type SharedPack = Schemas['SharedPack']
export type OpenShopping = Schemas['OpenShopping']
export type SweepNews = Schemas['SweepNews']
export type LawsOfReadings = Schemas['LawsOfReadings']
export type WhatIf = Schemas['WhatIf']
export type SingleFault = Schemas['SingleFault']
export type ServiceLife = Schemas['ServiceLife']
export type Lever = Schemas['Lever']
export type ProjectLine = Schemas['ProjectLine']
export type ShelfCounts = Schemas['ShelfCounts']
export type DataCopies = Schemas['DataCopies']
export type BackupUnderWay = Schemas['BackupUnderWay']
export type SmallPartUse = Schemas['SmallPartUse']
export type CalibrationOffer = Schemas['CalibrationOffer']
export type Explained = Schemas['Explained']
export type LogQuestion = Schemas['LogQuestion']
export type Prediction = Schemas['Prediction']
/** A station's key; which there are, the reference tables say. */
export type Station = string
export type ReferenceTables = Schemas['ReferenceTables']
export type BatterySize = Schemas['BatterySize']
export type WindowSummary = Schemas['WindowSummary']

const NO_ANSWER = t(
  'The server does not answer. Is Pocket Spark still running? What you typed stays here, and is sent when it answers.',
)

/** Every answer is one of HTTP: where there is none, or one that is no problem of ours, it becomes a problem. */
export async function send(input: RequestInfo | URL, init?: RequestInit): Promise<Response> {
  const answer = await fetch(input, init).catch(() => undefined)
  if (!answer) return problemAnswer(503, NO_ANSWER)
  const ours = answer.ok || answer.headers.get('Content-Type')?.includes('json')
  return ours
    ? answer
    : problemAnswer(answer.status, t('The server failed ({status}).', { status: answer.status }))
}

function problemAnswer(status: number, detail: string): Response {
  const problem: Problem = { type: 'about:blank', title: '', status, detail, errors: [] }
  const headers = { 'Content-Type': 'application/problem+json' }
  return new Response(JSON.stringify(problem), { status, headers })
}

/** The one way to ask the server. It never throws: an answer has `data`, or an `error` that `sentenceOf` reads. */
export const api = createClient<paths>({ baseUrl: '/', fetch: send })

/** What an answer says when it is a refusal. */
export function sentenceOf(error: unknown): string {
  return (error as Partial<Problem> | undefined)?.detail ?? NO_ANSWER
}
