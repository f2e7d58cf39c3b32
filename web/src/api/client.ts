import createClient from "openapi-fetch";
import { meetDataFile } from "../away/dataFile";
import { takeEarly } from "./early";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Plan = Schemas["Plan"];
export type OpenPlan = Schemas["OpenPlan"];
export type PlanTitle = Schemas["PlanTitle"];
export type RunReport = Schemas["RunReport"];
export type DayReport = Schemas["DayReport"];
export type Odds = Schemas["OddsReport"];
export type Sky = RunReport["sky"];
export type Weighing = Schemas["Weighing"];
export type Weighed = Schemas["Weighed"];
export type Goal = Schemas["Goal"];
export type Tried = Schemas["Tried"];
export type Sought = Schemas["Sought"];
export type SizesStart = Schemas["SizesStart"];
export type Sized = Schemas["Sized"];
export type Comparison = Schemas["Comparison"];
export type PriceTag = Schemas["PriceTag"];
export type Place = Schemas["Place"];
export type WeatherReport = Schemas["WeatherReport"];
export type Score = Schemas["Score"];
export type ScoredPart = Schemas["ScoredPart"];
export type CurveRead = Schemas["CurveRead"];
export type YearAt = Schemas["YearAt"];
export type ForecastReport = Schemas["ForecastReport"];
export type Period = Schemas["Period"];
export type Series = Schemas["Series"];
export type Amount = Schemas["Amount"];
export type Appliance = Schemas["ApplianceModel"];
export type Hours = Schemas["Hours"];
export type Block = Schemas["BlockModel"];
export type BlockKind = Block["kind"];
export type BlockTold = Schemas["BlockTold"];
export type ThingState = BlockTold["state"];
export type Day = Schemas["Day"];
export type SkyKey = Day["sky"];
export type Box = Schemas["Box"];
export type Panel = Schemas["PanelModel"];
export type SunInput = Schemas["SunModel"];
export type Vehicle = Schemas["VehicleModel"];
export type Mains = Schemas["MainsModel"];
export type Battery = Schemas["BatteryModel"];
export type Profile = Schemas["ProfileModel"];
export type Fresh = Schemas["Fresh"];
export type Inverter = Schemas["InverterModel"];
export type Converter = Schemas["ConverterModel"];
export type LoadOutput = Schemas["LoadOutputModel"];
export type Unit = Schemas["UnitModel"];
export type UnitInput = Schemas["UnitInputModel"];
export type ComparedUnit = Schemas["ComparedUnitModel"];
export type Reference = Schemas["Reference"];
export type ShelfItem = Schemas["ShelfItem"];
export type LogEntry = Schemas["LogEntry"];
export type NewEntry = Schemas["NewEntry"];
export type EntryKind = NewEntry["kind"];
export type Track = Schemas["TrackReport"];
export type Learned = Schemas["Learned"];
export type TripReport = Schemas["TripReport"];
export type Against = Schemas["Against"];
export type BandOf = Schemas["Band"];
export type MonitorState = Schemas["MonitorState"];
export type SampleView = Schemas["SampleView"];
export type TablePreview = Schemas["TablePreview"];
export type TableMapping = Schemas["Mapping"];
export type Ingested = Schemas["Ingested"];
export type JudgementReport = Schemas["JudgementReport"];
export type Severity = JudgementReport["severity"];
export type Remedy = Schemas["Remedy"];
export type Sum = Schemas["Sum"];
export type Build = Schemas["Build"];
export type BuildReport = Schemas["BuildReport"];
export type CircuitReport = Schemas["CircuitReport"];
export type OwnOutlet = Schemas["OutletModel"];
export type CircuitChoice = Schemas["CircuitChoice"];
export type Drawing = Schemas["Drawing"];
export type Ink = CircuitReport["ink"];
export type PartLine = Schemas["PartLine"];
export type OwnedPart = Schemas["OwnedPart"];
export type BodyReport = Schemas["BodyReport"];
export type PlacedPart = Schemas["PlacedPart"];
export type FittingReport = Schemas["FittingReport"];
export type FaceItem = Schemas["FaceItem"];
export type FaceName = FittingReport["face"];
export type Checklist = Schemas["ChecklistReport"];
export type Ticks = Schemas["Ticks"];
export type Symptom = Schemas["SymptomReport"];
export type DesignAlternative = Schemas["DesignAlternative"];
export type InstantReport = Schemas["InstantReport"];
export type Problem = Schemas["Problem"];
export type Complaint = Schemas["Complaint"];
export type SourceKind = Schemas["SourceReport"]["kind"];

export const client = createClient<paths>({
  baseUrl: globalThis.location?.origin ?? "http://127.0.0.1",
  // Looked up at each call, so that a test may put its own server in its place.
  fetch: async (request) => meetDataFile(await (takeEarly(request) ?? globalThis.fetch(request))),
});

/** An answer that is not a success, carried as an exception. */
export class Refusal extends Error {
  constructor(readonly problem: Problem) {
    super(problem.detail);
  }
}

/** A refusal that was caught, to be told; anything else is a fault, and goes on. */
export function refusalIn(error: unknown): Refusal {
  if (!(error instanceof Refusal)) throw error;
  return error;
}

const NOT_LET_IN = 401;

/** A device of the network that nobody let in yet is shown where it can ask. */
function goAndPair(): void {
  const { pathname, search } = window.location;
  if (pathname === "/pair") return;
  window.location.replace(`/pair?to=${encodeURIComponent(pathname + search)}`);
}

interface Answer<T> {
  data?: T;
  error?: unknown;
  response: Response;
}

/** The data of an answer, or a Refusal; a server that cannot be reached is one too. */
export async function answer<T>(call: Promise<Answer<T>>): Promise<T> {
  let got: Answer<T>;
  try {
    got = await call;
  } catch {
    throw new Refusal({
      type: "about:blank",
      title: "No answer",
      status: 0,
      detail: "Odd Kettle does not answer. Is it still running? Your last change is kept here.",
      complaints: [],
    });
  }
  if (got.response.ok) return got.data as T;
  if (got.response.status === NOT_LET_IN) goAndPair();
  const body = got.error as Partial<Problem> | undefined;
  throw new Refusal({
    type: "about:blank",
    title: body?.title ?? "Something broke",
    status: got.response.status,
    detail: body?.detail ?? `The server answered ${got.response.status}.`,
    complaints: body?.complaints ?? [],
    current_revision: body?.current_revision,
  });
}
