/** All that the Finish page decides: for what, of what, and how the file shall be. */

import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";
import {
  fetchAbout,
  fetchFileFacts,
  fetchProfiles,
  fetchPurposes,
  keepPurpose,
  sayAbout,
} from "@/api/calls";
import type { ProjectState } from "@/api/types";
import { keep, kept } from "@/browser/storage";
import {
  type About,
  type ExportRequest,
  type FileFacts,
  type FilePart,
  type FileSettings,
  MOST_MADE_BEFOREHAND,
  type Profile,
  type Purpose,
  partIn,
  requestFor,
  WHOLE,
} from "@/model/finishing";
import { useMessages } from "@/state/messages";

const LAST = "glyphaneme.purpose";
const FIRST_PURPOSE = "web";
const REMEMBERED_AFTER_MS = 600;
const NOTHING_SAID: About = { title: "", author: "", description: "", licence: "", alt: "" };

export interface Finishing {
  readonly project: ProjectState;
  readonly purposes: readonly Purpose[];
  readonly profiles: readonly Profile[];
  readonly purpose: Purpose;
  readonly settings: FileSettings;
  readonly part: FilePart;
  /** The layer that was open at the desk, if one was. */
  readonly openLayer: string | null;
  readonly about: About;
  readonly request: ExportRequest;
  readonly facts: FileFacts | null;
  readonly trouble: string | null;
  /** Whether it is made before somebody asks, to know its size. */
  readonly isEager: boolean;
  choose(purpose: Purpose): void;
  change(changes: Partial<FileSettings>): void;
  setPart(part: FilePart): void;
  say(about: About): void;
  refreshPurposes(): Promise<void>;
  refreshProfiles(): Promise<void>;
}

/** Null while what it needs is fetched. */
export function useFinishing(
  project: ProjectState | undefined,
  openLayer: string | null,
): Finishing | null {
  const client = useQueryClient();
  const purposes = useQuery({ queryKey: ["purposes"], queryFn: fetchPurposes });
  const profiles = useQuery({ queryKey: ["profiles"], queryFn: fetchProfiles });
  const [about, say] = useAbout(project?.id ?? "");
  const [wanted, setPart] = useState<FilePart>(WHOLE);
  const chosen = usePurpose(purposes.data);
  const part = partIn(wanted, chosen.settings?.format ?? "png");
  const request = useMemo(
    () =>
      project && chosen.settings
        ? requestFor(chosen.settings, part, project.head, about ?? NOTHING_SAID)
        : null,
    [project, chosen.settings, part, about],
  );
  const facts = useFacts(project?.id ?? "", request);
  if (!project || !about || !profiles.data || !purposes.data || !request) return null;
  if (!chosen.purpose || !chosen.settings) return null;
  return {
    project,
    purposes: purposes.data,
    profiles: profiles.data,
    purpose: chosen.purpose,
    settings: chosen.settings,
    part,
    openLayer,
    about,
    request,
    facts: facts.data ?? null,
    trouble: facts.error?.message ?? facts.data?.refused ?? null,
    isEager: isQuick(facts.data),
    choose: chosen.choose,
    change: chosen.change,
    setPart,
    say,
    refreshPurposes: () => client.invalidateQueries({ queryKey: ["purposes"] }),
    refreshProfiles: () => client.invalidateQueries({ queryKey: ["profiles"] }),
  };
}

function isQuick(facts: FileFacts | undefined): boolean {
  if (!facts || facts.refused !== null) return false;
  return facts.width * facts.height <= MOST_MADE_BEFOREHAND;
}

/** The purpose that is chosen, and its settings as they are changed and remembered. */
function usePurpose(purposes: readonly Purpose[] | undefined) {
  const client = useQueryClient();
  const [id, setId] = useState(() => kept(LAST) ?? FIRST_PURPOSE);
  const [changed, setChanged] = useState<FileSettings | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const waiting = useRef<(() => void) | null>(null);
  const warn = useMessages((messages) => messages.warn);
  const purpose = purposes?.find((one) => one.id === id) ?? purposes?.[0];
  const settings = changed ?? purpose?.settings ?? null;
  const settle = () => {
    clearTimeout(timer.current);
    waiting.current?.();
    waiting.current = null;
  };
  // biome-ignore lint/correctness/useExhaustiveDependencies: when the page is left, once
  useEffect(() => settle, []);
  const choose = (next: Purpose) => {
    settle();
    keep(LAST, next.id);
    setId(next.id);
    setChanged(null);
  };
  const change = (changes: Partial<FileSettings>) => {
    if (!purpose || !settings) return;
    const next = { ...settings, ...changes };
    setChanged(next);
    waiting.current = () =>
      void keepPurpose(purpose.id, next).then(
        () => client.invalidateQueries({ queryKey: ["purposes"] }),
        (error: Error) => warn(error.message),
      );
    clearTimeout(timer.current);
    timer.current = setTimeout(settle, REMEMBERED_AFTER_MS);
  };
  return { purpose, settings, choose, change };
}

function useAbout(projectId: string): readonly [About | null, (about: About) => void] {
  const client = useQueryClient();
  const warn = useMessages((messages) => messages.warn);
  const key = ["about", projectId];
  const found = useQuery({
    queryKey: key,
    queryFn: () => fetchAbout(projectId),
    enabled: projectId !== "",
  });
  const say = (about: About) => {
    client.setQueryData(key, about);
    sayAbout(projectId, about).catch((error: Error) => warn(error.message));
  };
  return [found.data ?? null, say];
}

function useFacts(projectId: string, request: ExportRequest | null) {
  return useQuery({
    queryKey: ["file-facts", projectId, request],
    queryFn: () => fetchFileFacts(projectId, request as ExportRequest),
    enabled: request !== null,
    placeholderData: (before: FileFacts | undefined) => before,
    retry: false,
  });
}
