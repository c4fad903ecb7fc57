"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { axisAt, emptyStudy, freeId, viewOf, type Study } from "@arroyo/core";
import { studyChange, withAxis } from "../features/options/studyEdits.ts";
import { useStore } from "../features/store.ts";
import { Act } from "./fields.tsx";

/** Puts what stands at some addresses into the study last made of the model in view, or into a new one; its id, or why not. */
function varyThis(addresses: readonly string[], label: string): { readonly study: string; readonly name: string } | { readonly message: string } {
  const { document, option, edit } = useStore.getState();
  if (!document) return { message: "There is no project open." };
  const base = viewOf(document, option).project;
  const choice = axisAt(document, base, addresses[0]);
  if (!choice) return { message: "This cannot be varied: it has no other value." };
  const studies = document.studies ?? {};
  const id = Object.keys(studies)
    .reverse()
    .find((key) => studies[key].base === option);
  const study: Study = id === undefined ? emptyStudy(`Study ${Object.keys(studies).length + 1}`, option) : studies[id];
  const known = study.axes.find((a) => a.addresses?.join() === addresses.join());
  const key = id ?? freeId(studies, "study");
  if (known) return { study: key, name: study.name };
  const several = addresses.length > 1 ? { name: `${label}, ${addresses.length} places`, addresses: [...addresses] } : {};
  const next = withAxis(document, study, { ...choice, axis: { ...choice.axis, ...several } });
  const [problem] = edit(`Vary ${choice.axis.name}`, [studyChange(document, key, next)]);
  return problem ? { message: problem.message } : { study: key, name: study.name };
}

/** Picks an input up where it stands as an axis of a study. */
export function VaryThis({ addresses, label }: { addresses: readonly string[]; label: string }) {
  const router = useRouter();
  const project = useStore((s) => s.document?.id ?? "");
  const [done, setDone] = useState<ReturnType<typeof varyThis> | null>(null);
  if (done && "study" in done)
    return (
      <Act title={`It is an axis of ${done.name}`} onClick={() => router.push(`/p/${project}/options?study=${encodeURIComponent(done.study)}&read=compose`)}>
        in {done.name}, show
      </Act>
    );
  return (
    <Act title={done ? done.message : "Takes it up as an axis of a study"} onClick={() => setDone(varyThis(addresses, label))}>
      {done ? "cannot be varied" : "vary this"}
    </Act>
  );
}
