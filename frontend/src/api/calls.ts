/** One function per thing that the page asks of the service. */

import { getJson, send, sendBody, sendJson } from "@/api/http";
import type {
  AlignAnswer,
  AlignRequest,
  BroughtIn,
  DoubtfulPlace,
  EditAnswer,
  FrameView,
  History,
  Job,
  LayerThere,
  LibraryPicture,
  ModeChoices,
  Picture,
  ProjectCard,
  ProjectState,
  Version,
} from "@/api/types";
import type { Canvas, Edit, MaskPart } from "@/model/composite";
import type {
  About,
  EarlierFile,
  ExportRequest,
  FileFacts,
  FileSettings,
  Many,
  Profile,
  Purpose,
} from "@/model/finishing";
import type { Font, FontFacts } from "@/model/fonts";
import type { Batch, NewBatch, TableLine } from "@/model/many";
import type { MatchOffer } from "@/model/matches";
import type { CutAnswer, CutRequest, Haste, Network } from "@/model/mattes";
import type { Checklist, Filling, PlanLook, PlanOffer } from "@/model/plans";
import type { Point } from "@/model/points";
import { joinedHistory } from "@/model/ruling";
import type { ToneOf } from "@/model/tones";

export const fetchWall = async (): Promise<ProjectCard[]> =>
  (await getJson<{ projects: ProjectCard[] }>("/api/projects")).projects;

export const fetchShelf = async (): Promise<Picture[]> =>
  (await getJson<{ pictures: Picture[] }>("/api/pictures")).pictures;

/** The product's own pictures, kind by kind. */
export const fetchLibrary = async (): Promise<LibraryPicture[]> =>
  (await getJson<{ pictures: LibraryPicture[] }>("/api/library")).pictures;

/** Make a picture of the library an ordinary one. */
export const lendPicture = (name: string): Promise<BroughtIn> =>
  sendJson<BroughtIn>(`/api/library/${name}`, {});

export const renamePicture = (id: string, name: string): Promise<void> =>
  sendJson<void>(`/api/pictures/${id}`, { name }, "PATCH");

export const putOnShelf = (id: string, on_shelf: boolean): Promise<void> =>
  sendJson<void>(`/api/pictures/${id}`, { on_shelf }, "PATCH");

/** All fonts that words can be set in, group by group; own ones last. */
export const fetchFonts = async (): Promise<Font[]> =>
  (await getJson<{ fonts: Font[] }>("/api/fonts")).fonts;

export const fetchFontFacts = (id: string): Promise<FontFacts> =>
  getJson<FontFacts>(`/api/fonts/${id}`);

/** By font id, the letters of a text that it lacks. */
export const fetchLacking = async (text: string): Promise<Readonly<Record<string, string>>> =>
  (await sendJson<{ lacking: Record<string, string> }>("/api/fonts/lacking", { text })).lacking;

export const fontUrl = (id: string): string => `/api/fonts/${id}/file`;

export const putAwayFont = async (id: string): Promise<void> => {
  await send(`/api/fonts/${id}`, { method: "DELETE" });
};

export const fetchModes = async (): Promise<ModeChoices[]> =>
  (await getJson<{ groups: ModeChoices[] }>("/api/modes")).groups;

export const fetchProject = (id: string): Promise<ProjectState> =>
  getJson<ProjectState>(`/api/projects/${id}`);

/** Colours of what lies beneath a layer. */
export const fetchColors = async (
  id: string,
  revision: string,
  beneath: string,
): Promise<string[]> =>
  (
    await getJson<{ colors: string[] }>(
      `/api/projects/${id}/colors?revision=${revision}&beneath=${beneath}`,
    )
  ).colors;

/** Return the history of a project; where some of it is known, only what is new is sent. */
export async function fetchHistory(id: string, known?: History): Promise<History> {
  const last = known?.ticks.at(-1);
  const asked = last ? `?after=${last.id}` : "";
  return joinedHistory(known, await getJson<History>(`/api/projects/${id}/history${asked}`));
}

/** The moments of a project that have names, newest first. */
export const fetchVersions = async (id: string): Promise<Version[]> =>
  (await getJson<{ versions: Version[] }>(`/api/projects/${id}/versions`)).versions;

export const nameMoment = (id: string, revision: string, name: string): Promise<void> =>
  sendJson<void>(`/api/projects/${id}/versions/${revision}`, { name }, "PUT");

/** Take a moment's name away; the moment stays in the history. */
export const forgetName = async (id: string, revision: string): Promise<void> => {
  await send(`/api/projects/${id}/versions/${revision}`, { method: "DELETE" });
};

/** Make a project of a moment of another, or of how that stands. */
export const copyProject = (
  id: string,
  copy: { id: string; revision: string | null },
): Promise<ProjectState> => sendJson<ProjectState>(`/api/projects/${id}/copies`, copy);

export const fetchJob = (id: string): Promise<Job> => getJson<Job>(`/api/jobs/${id}`);

export const beginProject = (id: string, name: string, canvas: Canvas): Promise<ProjectState> =>
  sendJson<ProjectState>("/api/projects", { id, name, canvas });

export const renameProject = (id: string, name: string): Promise<void> =>
  sendJson<void>(`/api/projects/${id}`, { name }, "PATCH");

export const removeProject = (id: string, removed: boolean): Promise<void> =>
  sendJson<void>(`/api/projects/${id}`, { removed }, "PATCH");

export const sendEdit = (
  id: string,
  edit: { key: string; parent: string; edit: Edit },
): Promise<EditAnswer> => sendJson<EditAnswer>(`/api/projects/${id}/edits`, edit);

export const sendStanding = (
  id: string,
  standing: { key: string; to: string; came_from: string },
): Promise<ProjectState> => sendJson<ProjectState>(`/api/projects/${id}/standing`, standing);

/** What is left out is as it is at first. */
export type AskedFile = Partial<ExportRequest> & { readonly revision: string };

export const startExport = (id: string, key: string, request: AskedFile): Promise<Job> =>
  sendJson<Job>(`/api/projects/${id}/exports`, { key, request });

/** What is known of a file before it is made. */
export const fetchFileFacts = (id: string, request: ExportRequest): Promise<FileFacts> =>
  sendJson<FileFacts>(`/api/projects/${id}/exports/facts`, request);

/** Have several pictures made into one file. */
export const startMany = (
  key: string,
  { projects, settings, gathered, grid }: Many,
): Promise<Job> => {
  const request = { projects, settings, gathered, sheet: grid };
  return sendJson<Job>("/api/exports", { key, request });
};

/** Which part of a file is looked at, in its pixels; at scale 1 as it is written. */
export interface Looked {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly scale: number;
  readonly marks: "none" | "gamut";
}

export interface FileLook {
  readonly picture: Blob;
  readonly x: number;
  readonly y: number;
  /** Which share of it no ink reaches. */
  readonly outside: number;
}

/** How a part of a file will look. */
export async function fetchLook(
  id: string,
  request: ExportRequest,
  seen: Looked,
): Promise<FileLook> {
  const response = await sendBody(`/api/projects/${id}/exports/look`, { request, seen });
  const [x = 0, y = 0] = (response.headers.get("Glyphaneme-At") ?? "").split(",").map(Number);
  const outside = Number(response.headers.get("Glyphaneme-Outside") ?? 0);
  return { picture: await response.blob(), x, y, outside };
}

export const fetchAbout = (id: string): Promise<About> =>
  getJson<About>(`/api/projects/${id}/about`);

export const sayAbout = (id: string, about: About): Promise<About> =>
  sendJson<About>(`/api/projects/${id}/about`, about, "PUT");

/** Files of a picture that can still be fetched, the newest first. */
export const fetchEarlierFiles = async (id: string): Promise<EarlierFile[]> =>
  (await getJson<{ files: EarlierFile[] }>(`/api/projects/${id}/exports`)).files;

export const fetchPurposes = async (): Promise<Purpose[]> =>
  (await getJson<{ purposes: Purpose[] }>("/api/purposes")).purposes;

/** Remember what a purpose sets. */
export const keepPurpose = (id: string, settings: FileSettings): Promise<Purpose> =>
  sendJson<Purpose>(`/api/purposes/${id}`, { settings }, "PUT");

export const addPurpose = (name: string, settings: FileSettings): Promise<Purpose> =>
  sendJson<Purpose>("/api/purposes", { name, settings });

/** Take an own purpose away, or let one that ships set what it did at first. */
export const forgetPurpose = async (id: string): Promise<void> => {
  await send(`/api/purposes/${id}`, { method: "DELETE" });
};

export const fetchProfiles = async (): Promise<Profile[]> =>
  (await getJson<{ profiles: Profile[] }>("/api/profiles")).profiles;

export async function bringInProfile(file: File): Promise<Profile> {
  const body = new FormData();
  body.append("file", file, file.name);
  return (await send("/api/profiles", { method: "POST", body })).json() as Promise<Profile>;
}

export const fetchPlans = async (): Promise<PlanOffer[]> =>
  (await getJson<{ plans: PlanOffer[] }>("/api/plans")).plans;

/** A small example of a plan, or a photo that it was made of. */
export const planExampleUrl = (name: string, slot?: string): string =>
  `/api/plans/${name}/example${slot === undefined ? "" : `?slot=${slot}`}`;

/** Ask what would come of a plan; what is still to be found is sought from then on. */
export const lookAtPlan = (name: string, filling: Filling): Promise<PlanLook> =>
  sendJson<PlanLook>(`/api/plans/${name}/look`, { filling });

/** A picture of what would come of a plan, its longer side so many pixels long. */
export const fetchPlanFrame = async (name: string, filling: Filling, side: number): Promise<Blob> =>
  (await sendBody(`/api/plans/${name}/frame`, { filling, side })).blob();

export const beginFromPlan = (
  name: string,
  begun: { readonly id: string; readonly filling: Filling },
): Promise<ProjectState> => sendJson<ProjectState>(`/api/plans/${name}/projects`, begun);

/** Make a plan of a picture as it stands. */
export const makePlanOf = (
  id: string,
  said: {
    readonly title: string;
    readonly about: string;
    readonly slots: readonly { picture: string; title: string; suits: string }[];
  },
): Promise<{ readonly name: string; readonly title: string }> =>
  sendJson(`/api/projects/${id}/plans`, said);

/** A plan as a file, with all that stays in it. */
export const planFileUrl = (name: string): string => `/api/plans/${name}/file`;

export const fetchPlanFile = async (name: string): Promise<File> =>
  new File([await (await send(planFileUrl(name))).blob()], `${name}.json`);

export async function bringInPlan(file: File): Promise<{ readonly name: string }> {
  const body = new FormData();
  body.append("file", file, file.name);
  return (await send("/api/plans", { method: "POST", body })).json() as Promise<{ name: string }>;
}

export const takePlanAway = async (name: string): Promise<void> => {
  await send(`/api/plans/${name}`, { method: "DELETE" });
};

/** Read a table in CSV for a plan; nothing is kept of it. */
export async function readTable(name: string, file: File): Promise<readonly TableLine[]> {
  const body = new FormData();
  body.append("file", file, file.name);
  const answer = await send(`/api/plans/${name}/table`, { method: "POST", body });
  return ((await answer.json()) as { rows: TableLine[] }).rows;
}

export const startBatch = (name: string, batch: NewBatch): Promise<Job> =>
  sendJson<Job>(`/api/plans/${name}/batches`, batch);

export const fetchBatches = async (): Promise<Batch[]> =>
  (await getJson<{ batches: Batch[] }>("/api/batches")).batches;

const ITEMS_A_PAGE = 100;

/** A batch with as many pages of its pictures; what failed and what is doubtful come first. */
export async function fetchBatch(id: string, pages: number): Promise<Batch> {
  const asked = Array.from({ length: pages }, (_, page) =>
    getJson<Batch>(`/api/batches/${id}?start=${page * ITEMS_A_PAGE}`),
  );
  const [first, ...others] = await Promise.all(asked as [Promise<Batch>]);
  return { ...first, items: [first, ...others].flatMap(({ items }) => items) };
}

export const pauseBatch = (id: string, paused: boolean): Promise<Job> =>
  sendJson<Job>(`/api/batches/${id}`, { paused }, "PATCH");

/** The steps of the plan that a picture was begun from. */
export const fetchChecklist = (id: string): Promise<Checklist> =>
  getJson<Checklist>(`/api/projects/${id}/plan`);

export const changeChecklist = (
  id: string,
  change: { readonly ignored?: Readonly<Record<string, boolean>>; readonly is_folded?: boolean },
): Promise<void> => sendJson<void>(`/api/projects/${id}/plan`, change, "PATCH");

export const cancelJob = async (id: string): Promise<Job> =>
  (await send(`/api/jobs/${id}`, { method: "DELETE" })).json() as Promise<Job>;

/** Which tone of which layer is worked on. */
export interface ToneSeen {
  readonly layer_id: string;
  readonly place: number;
}

interface Spot extends ToneSeen {
  readonly revision: string;
  readonly x: number;
  readonly y: number;
  readonly radius: number;
}

/** Ask for the colour of a spot as a tone finds it, 0..1. */
export const askForToneColor = (
  id: string,
  spot: Spot,
): Promise<{ red: number; green: number; blue: number }> =>
  sendJson(`/api/projects/${id}/tone-color`, spot);

/** Have levels found: by a spot that is black, grey or white, or by where tones end. */
export const askForLevels = (
  id: string,
  asked: Spot & { readonly role: "black" | "grey" | "white" | "ends" | "each" },
): Promise<ToneOf<"levels">> => sendJson(`/api/projects/${id}/levels`, asked);

/** Ask where a layer shows on the canvas: its upper left and lower right, or nowhere. */
export const askForExtent = async (
  id: string,
  asked: { readonly revision: string; readonly layer_id: string },
): Promise<readonly (readonly [number, number])[]> => {
  const { points }: { points: readonly (readonly [number, number])[] } = await sendJson(
    `/api/projects/${id}/layer-extent`,
    asked,
  );
  return points;
};

/** Which tone of which layer shall match it, and to which other layer, if to one. */
export interface MatchAsked {
  readonly revision: string;
  readonly layer_id: string;
  readonly place: number;
  readonly to: string | null;
}

/** Ask for ways to match a layer, the safest first. */
export const askForMatches = async (
  id: string,
  asked: MatchAsked,
): Promise<readonly MatchOffer[]> => {
  const { offers }: { offers: readonly MatchOffer[] } = await sendJson(
    `/api/projects/${id}/matches`,
    asked,
  );
  return offers;
};

/** Have a layer matched by pairs of spots: this should look like that. */
export const askForPairs = (
  id: string,
  asked: MatchAsked & {
    readonly pairs: readonly { readonly this: Point; readonly that: Point }[];
    readonly radius: number;
  },
): Promise<ToneOf<"match">> => sendJson(`/api/projects/${id}/match-pairs`, asked);

/** Ask for a frame of a state with unsaved edits on top. */
export const requestFrame = (
  id: string,
  frame: {
    revision: string;
    unsaved: readonly Edit[];
    view: FrameView;
    /** Whose tones are counted besides. */
    tones_of: ToneSeen | null;
  },
): Promise<Response> => sendBody(`/api/projects/${id}/frame`, frame);

/** Ask for small renders, one per alternative. */
export const requestTries = (
  id: string,
  tries: {
    revision: string;
    unsaved: readonly Edit[];
    alternatives: readonly Edit[];
    window: { x: number; y: number; width: number; height: number } | null;
    width: number;
  },
): Promise<Response> => sendBody(`/api/projects/${id}/tries`, tries);

/** Ask for all layers under a point of the canvas, front to back. */
export const fetchLayersThere = async (
  id: string,
  point: { revision: string; unsaved: readonly Edit[]; x: number; y: number },
): Promise<LayerThere[]> =>
  (await sendJson<{ layers: LayerThere[] }>(`/api/projects/${id}/layers-there`, point)).layers;

/** Have it kept how the layer that a part follows shows now. */
export const keepPart = (
  id: string,
  asked: { revision: string; unsaved: readonly Edit[]; layer_id: string; part_id: string },
): Promise<MaskPart> => sendJson<MaskPart>(`/api/projects/${id}/kept-parts`, asked);

/** Have a backdrop found; what was found before comes at once. */
export const askForMatte = (
  picture: string,
  asked: { key: string; request: CutRequest; haste: Haste },
): Promise<CutAnswer> => sendJson<CutAnswer>(`/api/pictures/${picture}/mattes`, asked);

/** Have photos lined up; by numbers the answer comes at once. */
export const askForAlignment = (
  id: string,
  asked: {
    key: string;
    revision: string;
    unsaved: readonly Edit[];
    request: AlignRequest;
  },
): Promise<AlignAnswer> => sendJson<AlignAnswer>(`/api/projects/${id}/alignments`, asked);

type SurfacePoints = { readonly points: readonly (readonly [number, number])[] };
const asPoints = ({ points }: SurfacePoints) => points.map(([x, y]) => ({ x, y }));

/** Corner-like points of what lies beneath a layer. */
export const fetchCornerPoints = async (
  id: string,
  asked: { revision: string; layer_id: string },
): Promise<{ x: number; y: number }[]> =>
  asPoints(await sendJson<SurfacePoints>(`/api/projects/${id}/corner-points`, asked));

/** The corners of the blank place beneath a layer that a rough stroke goes over. */
export const askForBlank = async (
  id: string,
  asked: { revision: string; layer_id: string; stroke: number[][]; radius: number },
): Promise<{ x: number; y: number }[]> =>
  asPoints(await sendJson<SurfacePoints>(`/api/projects/${id}/blank-corners`, asked));

/** Networks that find subjects. */
export const fetchNetworks = async (): Promise<Network[]> =>
  (await getJson<{ networks: Network[] }>("/api/networks")).networks;

/** Where a matte is least sure, in its picture's pixels, the largest places first. */
export const fetchDoubts = async (matte: string, level: number): Promise<DoubtfulPlace[]> =>
  (await getJson<{ places: DoubtfulPlace[] }>(`/api/mattes/${matte}/doubts?level=${level}`)).places;

/** A small copy of a state of a project; of how it stands, where none is named. */
export const previewUrl = (id: string, revision: string | null, width: number): string =>
  `/api/projects/${id}/preview?width=${width}${revision === null ? "" : `&revision=${revision}`}`;

/** What a layer's mask hides of it, as the alpha of a small picture. */
export const hiddenUrl = (id: string, revision: string, layer: string): string =>
  `/api/projects/${id}/hidden?revision=${revision}&layer=${layer}`;

export const thumbnailUrl = (pictureId: string): string => `/api/pictures/${pictureId}/thumbnail`;

export const libraryThumbnailUrl = (name: string): string => `/api/library/${name}/thumbnail`;

export const exportUrl = (jobId: string): string => `/api/exports/${jobId}/file`;
