import createClient from "openapi-fetch";
import { account } from "./account";
import type { components, paths } from "./schema.gen";

export type Schemas = components["schemas"];
export type Project = Schemas["Project"];
export type Drop = Schemas["Drop"];
export type Room = Schemas["Room"];
export type Line = Schemas["InternetLine"];
export type Settings = Schemas["Settings"];
export type Closet = Schemas["Closet"];
export type Outcome = Schemas["Outcome"];
export type Balance = Schemas["Balance"];
export type Capacity = Schemas["Capacity"];
export type ClosetGround = Schemas["ClosetGround"];
export type Finding = Schemas["Finding"];
export type Answer = Schemas["Answer"];
export type BoxFill = Schemas["BoxFill"];
export type PickFor = Schemas["PickFor"];
export type ReasonsFor = Schemas["ReasonsFor"];
export type PriceFor = Schemas["PriceFor"];
export type CatalogueLine = Schemas["CatalogueLine"];
export type CatalogueFor = Schemas["CatalogueFor"];
export type Model = CatalogueFor["catalogue"]["models"][number];
export type Difference = Schemas["Difference"];
export type LineKind = Schemas["LineKind"];
export type PriceColumn = Schemas["PriceColumn"];
export type CatalogueChange = Schemas["Changes"]["changes"][number];
export type Costs = Schemas["Costs"];
/** A question that is searched for. */
export type Question =
  paths["/api/projects/{project_id}/search/stop"]["post"]["requestBody"]["content"]["application/json"];
export type AheadFor = Schemas["AheadFor"];
export type StepsFor = Schemas["StepsFor"];
export type FlipsFor = Schemas["FlipsFor"];
export type BeyondFor = Schemas["BeyondFor"];
export type RoomPorts = Schemas["RoomPorts"];
export type RoomsTogether = Schemas["RoomsTogether"];
export type YearLine = Schemas["YearLine"];
export type Step = Schemas["Step"];
/** What can be done with a price list's files. */
export type PriceQuestion = Schemas["LookInto"] | Schemas["TakeIn"] | Schemas["WriteOut"];
export type Underway = Schemas["Underway"];
export type WhyNot = Schemas["WhyNot"];
export type KindLine = Schemas["KindLine"];
export type Understood = Schemas["QuickReply"];
export type Aim = Answer["aim"];
export type { Edit, ListName } from "./edits";
export type DropChanges = Schemas["DropChanges"];
export type Layout = Schemas["Layout"];
export type Floor = Schemas["Floor"];
export type Path = Schemas["Path"];
export type ReachFor = Schemas["ReachFor"];
export type CableToBuy = Schemas["CableToBuy"];
export type Candidate = Schemas["Candidate"];
export type Landmark = Schemas["Landmark"];
export type CoverFor = Schemas["CoverFor"];
export type BestViewsFor = Schemas["BestViewsFor"];
export type FootageFor = Schemas["FootageFor"];
export type ViewLine = Schemas["ViewLine"];
export type ClosetStack = Schemas["ClosetStack"];
export type Thing = Schemas["Thing"];
export type StackFor = Schemas["StackFor"];
export type StackProposalsFor = Schemas["StackProposalsFor"];
export type BoxKey = Schemas["BoxKey"];
export type PatchFor = Schemas["PatchFor"];
export type JobPrice = Schemas["JobPriceFor"];
export type PricePart = Schemas["PricedPart"];
export type WorkLine = Schemas["WorkLine"];
export type SumBand = Schemas["SumBand"];
export type Visits = Schemas["Visits"];
export type PhasePlan = Schemas["PhasePlan"];
export type OfferTold = Schemas["OfferTold"];
export type ClosetPatching = Schemas["ClosetPatching"];
export type PortLine = Schemas["PortLine"];
export type Face = Schemas["Face"];
export type PortFace = Schemas["PortFace"];
export type MatrixCell = Schemas["MatrixCell"];
export type Network = Schemas["Network"];
export type ModelOffer = Schemas["ModelOffer"];
export type OwnKind = Schemas["OwnKind"];
export type ViewSection = Schemas["ViewSection"];
export type TargetLine = Schemas["TargetLine"];
export type SignalFor = Schemas["SignalFor"];
export type SignalCut = Schemas["SignalCut"];
export type SignalPicture = Schemas["Picture"];
export type StationLine = Schemas["StationLine"];
export type RadioLine = Schemas["RadioLine"];
export type ChannelsFor = Schemas["ChannelsFor"];
export type BestStationsFor = Schemas["BestStationsFor"];
export type Roamed = Schemas["Roamed"];
export type SurveyFor = Schemas["SurveyFor"];
export type Reading = Schemas["Reading"];
export type Heard = Schemas["Heard"];
export type Band = Heard["band"];
export type SpotSeen = Schemas["SpotSeen"];
export type View = Schemas["View"];
export type Target = Schemas["Target"];
export type Opening = Schemas["Opening"];
export type Siting = Schemas["Siting"];
export type Sites = Schemas["Sites"];
export type SitingFor = Schemas["SitingFor"];
export type SheetName = Schemas["SheetOf"]["sheet"];
export type PlaceLine = Schemas["PlaceLine"];
export type Link = Schemas["Link"];
export type Bundle = Schemas["Bundle"];
export type SetOut = Schemas["SetOut"];
export type Fed = Schemas["Fed"];
export type LoadFor = Schemas["LoadFor"];
export type Flows = Schemas["Flows"];
export type LinkFlow = Schemas["LinkFlow"];
export type DropFlow = Schemas["DropFlow"];
export type Drill = Schemas["Drill"];
export type Ask = Schemas["Ask"];
export type Throughput = Schemas["Throughput"];
export type PathFill = Schemas["PathFill"];
export type RoomChanges = Schemas["RoomChanges"];
export type SettingsChanges = Partial<Schemas["Settings"]>;

export const AIMS: readonly Aim[] = ["least_price", "fewest_boxes", "most_room", "least_power"];

export const http = createClient<paths>({ baseUrl: "/" });
// names of any script travel in a header only when they are encoded
http.use({
  onRequest: ({ request }) => {
    if (!request.headers.has("X-Account")) request.headers.set("X-Account", encodeURIComponent(account()));
  },
});

/** An error of the server as the sentence it says. */
export class Told extends Error {
  constructor(
    message: string,
    readonly status: number,
  ) {
    super(message);
  }

  /** Whether it may be well in a moment: the server is busy, or its database is away. */
  get passes(): boolean {
    return this.status === 503 || this.status === 408;
  }
}

/** Whether the server refused what was asked: it would refuse it again. */
export const isRefused = (error: unknown) => error instanceof Told && error.status < 500;

/** The data of a response, or the server's sentence thrown. */
export async function data<T>(call: Promise<{ data?: T; error?: unknown; response: Response }>): Promise<T> {
  const { data: value, error, response } = await call;
  if (error !== undefined || !response.ok) {
    const detail = (error as { detail?: unknown } | undefined)?.detail;
    throw new Told(typeof detail === "string" ? detail : `The server answered ${response.status}.`, response.status);
  }
  return value as T;
}
