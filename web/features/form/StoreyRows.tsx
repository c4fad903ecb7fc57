"use client";
import { chakra, Text } from "@chakra-ui/react";
import { useRef, useState } from "react";
import { addRoof, setChange, unsetChange, type Project, type Roof } from "@arroyo/core";
import { ask } from "../../live/server.ts";
import { Act, firstMessage, Head, NumberInput, Row, SelectInput, TextInput, Unit, Quantity } from "../../ui/fields.tsx";
import { useStore } from "../store.ts";
import { useForm } from "./formStore.ts";
import { Told } from "../../ui/Told.tsx";

const kinds: readonly Roof["kind"][] = ["flat", "shed", "gable", "hip"];
const places = ["part of the storey", "roof space"] as const;
const MOST_BYTES = 20 * 1024 * 1024;

/** Level, height, multiplier, roof and underlay of one storey. */
export function StoreyRows({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const select = useStore((s) => s.select);
  const level = project.storeys[id];
  const [roof, setRoof] = useState<{ kind: Roof["kind"]; pitch: number; direction: number; as: (typeof places)[number] }>({
    kind: "gable",
    pitch: 30,
    direction: 90,
    as: "roof space",
  });
  const [said, setSaid] = useState<string | null>(null);
  const number = (key: "elevation" | "height" | "multiplier", label: string, unit: string, digits = 2) => (
    <Row label={label}>
      <Quantity
        label={key === "multiplier" ? "Storey multiplier" : key}
        value={level[key]}
        unit={key === "multiplier" ? "1" : "m"}
        digits={digits}
        onCommit={(v) => edit(`${level.name}, ${label.toLowerCase()} ${Number(v.toPrecision(6))}`, [setChange(project, ["storeys", id, key], v)])}
      />
      {key === "multiplier" && <Unit>{unit}</Unit>}
    </Row>
  );
  const own = Object.entries(project.roofs).filter(([, r]) => r.storey === id);
  return (
    <>
      <Row label="Name">
        <TextInput label="Storey name" value={level.name} onCommit={(v) => firstMessage(edit(`Name ${v}`, [setChange(project, ["storeys", id, "name"], v)]))} />
      </Row>
      {number("elevation", "Level", "m")}
      {number("height", "Floor to floor", "m")}
      {number("multiplier", "Stands for", "storeys", 0)}
      <Head>Roof over this storey</Head>
      {own.map(([key, r]) => (
        <Row key={key} label={r.name}>
          <Act onClick={() => select([{ kind: "roof", id: key }])}>open</Act>
        </Row>
      ))}
      <Row label="Shape">
        <SelectInput
          label="Roof shape"
          value={roof.kind}
          options={kinds.map((k) => ({ value: k, label: k }))}
          onChange={(v) => setRoof({ ...roof, kind: kinds.find((k) => k === v) ?? "gable" })}
        />
      </Row>
      {roof.kind !== "flat" && (
        <Row label="Pitch">
          <NumberInput
            label="Roof pitch"
            value={roof.pitch}
            digits={0}
            onCommit={(v) => (v > 0 && v <= 75 ? (setRoof({ ...roof, pitch: v }), null) : "A pitch is above 0 and at most 75°.")}
          />
          <Unit>°</Unit>
        </Row>
      )}
      {(roof.kind === "shed" || roof.kind === "gable") && (
        <Row label={roof.kind === "shed" ? "Falls toward" : "Ridge along"} note="clockwise from the top of the plan">
          <NumberInput
            label="Roof direction"
            value={roof.direction}
            digits={0}
            onCommit={(v) => (Math.abs(v) <= 360 ? (setRoof({ ...roof, direction: v }), null) : "A direction is between −360 and 360°.")}
          />
          <Unit>°</Unit>
        </Row>
      )}
      <Row label="Under it" note="a roof space is a zone of its own, neither heated nor used">
        <SelectInput
          label="Under the roof"
          value={roof.as}
          options={[
            { value: "roof space", label: "a roof space" },
            { value: "part of the storey", label: "its own spaces" },
          ]}
          onChange={(v) => setRoof({ ...roof, as: places.find((p) => p === v) ?? "roof space" })}
        />
      </Row>
      <Act
        onClick={() => {
          const e = addRoof(project, id, roof.kind, roof.pitch, roof.direction, roof.as);
          setSaid(e.ok ? firstMessage(edit(e.name, e.changes)) : e.message);
        }}
      >
        Roof this storey
      </Act>
      {said && (
        <Text role="alert" color="clay" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
      <UnderlayRows id={id} />
    </>
  );
}

/** Image to trace over: chosen, placed, scaled by two points, made fainter. */
function UnderlayRows({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const set = useForm((s) => s.set);
  const file = useRef<HTMLInputElement>(null);
  const [said, setSaid] = useState<string | null>(null);
  const u = project.storeys[id].underlay;
  const path = ["storeys", id, "underlay"];
  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    if (!/^image\/(png|jpeg|svg\+xml)$/.test(chosen.type)) return setSaid(`${chosen.name} is no PNG, JPEG or SVG image.`);
    if (chosen.size > MOST_BYTES) return setSaid(`${chosen.name} is larger than 20 MB.`);
    try {
      const url = URL.createObjectURL(chosen);
      const ratio = await new Promise<number>((resolve, reject) => {
        const image = new Image();
        image.onload = () => resolve((image.naturalHeight || 1) / (image.naturalWidth || 1));
        image.onerror = () => reject(new Error("no image"));
        image.src = url;
      });
      URL.revokeObjectURL(url);
      const kept = await ask<{ hash: string }>("/api/blobs", { kind: chosen.type, body: chosen });
      if (!kept.ok) return setSaid(kept.message);
      const width = u?.width ?? 30;
      const value = {
        image: kept.body.hash,
        name: chosen.name.slice(0, 200),
        x: u?.x ?? 0,
        y: u?.y ?? 0,
        width,
        height: width * ratio,
        angle: u?.angle ?? 0,
        opacity: u?.opacity ?? 0.6,
      };
      setSaid(firstMessage(edit(`Image ${chosen.name}`, [setChange(project, path, value)])));
    } catch {
      setSaid(`${chosen.name} cannot be read as an image.`);
    }
  };
  const number = (key: "x" | "y" | "width" | "angle" | "opacity", label: string, unit: string, shown = unit, digits = 2) =>
    u && (
      <Row label={label}>
        <Quantity
          label={`Image ${label}`}
          value={u[key]}
          unit={unit}
          shown={shown}
          digits={digits}
          onCommit={(k) => {
            const changes = [setChange(project, [...path, key], k)];
            if (key === "width" && k > 0) changes.push(setChange(project, [...path, "height"], (u.height * k) / u.width));
            return edit(`Image ${label} ${Number(k.toPrecision(6))}`, changes);
          }}
        />
      </Row>
    );
  return (
    <>
      <Head>Image to trace over</Head>
      <chakra.input
        ref={file}
        type="file"
        accept="image/png,image/jpeg,image/svg+xml"
        display="none"
        aria-label="Image file"
        onChange={(e) => void take(e.target.files?.[0])}
      />
      {u ? (
        <>
          {number("x", "left edge", "m")}
          {number("y", "lower edge", "m")}
          {number("width", "width", "m")}
          {number("angle", "turn", "°", "°", 1)}
          {number("opacity", "opacity", "1", "%", 0)}
          <Row label={u.name}>
            <Act onClick={() => set({ tool: "scale", view: "plan" })}>scale by two points</Act>
          </Row>
          <Row label="">
            <Act onClick={() => file.current?.click()}>replace</Act>
            <Act onClick={() => edit("Remove the image", [unsetChange(project, path)])}>remove</Act>
          </Row>
        </>
      ) : (
        <Act onClick={() => file.current?.click()}>Choose a PNG, JPEG or SVG image</Act>
      )}
      {said && (
        <Text role="alert" color="clay" fontSize="12px">
          <Told text={said} />
        </Text>
      )}
    </>
  );
}
