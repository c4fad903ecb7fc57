"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { Plus, Trash2 } from "lucide-react";
import { useRef, useState } from "react";
import { bandDays, freeId, fuels, MONTH_NAMES, readValueFile, setChange, type Fuel, type Project, type Tariff, type ValueFile } from "@arroyo/core";
import { IconButton } from "../../ui/Actions.tsx";
import { Act, firstMessage, NumberInput, Row, SelectInput, TextInput, Unit } from "../../ui/fields.tsx";
import { figure } from "../../ui/format.ts";
import { Grid } from "../../ui/Panes.tsx";
import { tally, useStore } from "../store.ts";
import { BillTable } from "../results/BillTable.tsx";

const PLAIN: Tariff = { bands: [], demand: 0, fixed: 0 };
const MONTHS = MONTH_NAMES.map((label, i) => ({ value: String(i + 1), label: label.slice(0, 3) }));
const HOURS = (from: number): { value: string; label: string }[] =>
  Array.from({ length: 24 }, (_, h) => ({ value: String(h + from), label: `${String(h + from).padStart(2, "0")}:00` }));

/** Prices and factors of every fuel and of water, tariffs by season and hour, and what the year costs under them. */
export function PriceDesk() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const live = useStore((s) => s.live);
  const [fuel, setFuel] = useState<Fuel>("electricity");
  const { prices, factors } = project;
  const { currency } = prices;
  const used = new Set(tally(live).summary?.energy.endUses.flatMap((u) => (u.total > 0 ? [u.fuel] : [])) ?? []);
  const number = (label: string, value: number, path: readonly string[], digits = 3) => (
    <NumberInput
      key={label}
      label={label}
      width="64px"
      value={value}
      digits={digits}
      onCommit={(v) => firstMessage(edit(`${label}: ${v}`, [setChange(project, path, v)]))}
    />
  );
  const tariff = prices.tariffs?.[fuel] ?? PLAIN;
  const setTariff = (words: string, next: Tariff): string | null =>
    firstMessage(
      edit(words, [prices.tariffs ? setChange(project, ["prices", "tariffs", fuel], next) : setChange(project, ["prices", "tariffs"], { [fuel]: next })]),
    );
  const setBand = (id: string, part: Partial<Tariff["bands"][number]>): string | null =>
    setTariff(`Tariff of ${fuel}`, { ...tariff, bands: tariff.bands.map((b) => (b.id === id ? { ...b, ...part } : b)) });
  const addBand = (): void => {
    const id = freeId(Object.fromEntries(tariff.bands.map((b) => [b.id, b])), "band");
    const band = { id, name: `Band ${tariff.bands.length + 1}`, price: prices.perKWh[fuel], from: 1, to: 12, days: "working days" as const, begin: 8, end: 20 };
    setTariff(`Tariff of ${fuel}: another band`, { ...tariff, bands: [...tariff.bands, band] });
  };
  return (
    <Flex direction="column" gap="5">
      <Box>
        <Flex align="baseline" gap="3" mb="1">
          <Text as="h2" textStyle="title">
            Prices and factors
          </Text>
          <Text color="ink2">per kWh of fuel, in</Text>
          <TextInput
            label="Currency"
            width="44px"
            value={currency}
            onCommit={(t) => firstMessage(edit(`Currency ${t}`, [setChange(project, ["prices", "currency"], t)]))}
          />
        </Flex>
        <Grid
          label="Prices and factors"
          head={[
            { text: "Fuel", left: true },
            { text: "Flat price", unit: `${currency}/kWh` },
            { text: "Carbon", unit: "kg CO₂e/kWh" },
            { text: "Primary", unit: "kWh/kWh" },
            { text: "Tariff", left: true },
          ]}
          rows={fuels.map((f) => ({
            key: f,
            active: f === fuel,
            onClick: () => setFuel(f),
            cells: [
              <Text key="n" as="span" color={used.has(f) ? "ink" : "ink2"}>
                {f}
                {used.has(f) ? "" : ", not used"}
              </Text>,
              number(`Price of ${f}`, prices.perKWh[f], ["prices", "perKWh", f]),
              number(`Carbon of ${f}`, factors.carbon[f], ["factors", "carbon", f]),
              number(`Primary energy of ${f}`, factors.primary[f], ["factors", "primary", f], 2),
              tariffWords(prices.tariffs?.[f], currency),
            ],
          }))}
        />
        <Flex gap="8" mt="2" maxW="860px">
          <Box flex="1">
            <Row label="Hot water and its sewage" title="Price of the hot water drawn, by volume">
              {number("Price of water", prices.water ?? 0, ["prices", "water"], 2)}
              <Unit>{currency}/m³</Unit>
            </Row>
          </Box>
          <Box flex="1">
            <Row label="Electricity fed into the grid" title="Counts once electricity is made on site">
              {number("Price of electricity fed in", prices.exported ?? 0, ["prices", "exported"])}
              <Unit>{currency}/kWh</Unit>
            </Row>
          </Box>
          <Box flex="1">
            <Row label="Carbon credited for it" title="Taken off for each kWh fed into the grid; as a kWh bought, unless typed">
              {number("Carbon of electricity fed in", factors.exported ?? factors.carbon.electricity, ["factors", "exported"])}
              <Unit>kg/kWh</Unit>
            </Row>
          </Box>
        </Flex>
      </Box>
      <Box>
        <Flex align="baseline" gap="3">
          <Text as="h2" textStyle="title">
            Tariff of {fuel}
          </Text>
          <IconButton label={`Add a band to the tariff of ${fuel}`} icon={Plus} onClick={addBand} />
          <Text color="ink2">prices by season and hour over the flat one, by the clock; later bands win. A row above chooses the fuel.</Text>
        </Flex>
        {tariff.bands.map((b) => (
          <Flex key={b.id} align="center" gap="2" py="1" borderBottom="1px solid" borderColor="line" role="group" aria-label={b.name} wrap="wrap">
            <TextInput label={`Name of ${b.name}`} align="left" width="110px" value={b.name} onCommit={(t) => setBand(b.id, { name: t })} />
            <NumberInput label={`Price of ${b.name}`} width="62px" value={b.price} digits={3} onCommit={(v) => setBand(b.id, { price: v })} />
            <Unit>{currency}/kWh</Unit>
            <SelectInput
              label={`First month of ${b.name}`}
              width="62px"
              value={String(b.from)}
              options={MONTHS}
              onChange={(v) => setBand(b.id, { from: Number(v) })}
            />
            <Text color="ink2">to</Text>
            <SelectInput
              label={`Last month of ${b.name}`}
              width="62px"
              value={String(b.to)}
              options={MONTHS}
              onChange={(v) => setBand(b.id, { to: Number(v) })}
            />
            <SelectInput
              label={`Days of ${b.name}`}
              align="left"
              width="170px"
              value={b.days}
              options={bandDays.map((d) => ({ value: d, label: d }))}
              onChange={(v) => setBand(b.id, { days: v as Tariff["bands"][number]["days"] })}
            />
            <SelectInput
              label={`${b.name} begins`}
              width="70px"
              value={String(b.begin)}
              options={HOURS(0)}
              onChange={(v) => setBand(b.id, { begin: Number(v) })}
            />
            <Text color="ink2">to</Text>
            <SelectInput label={`${b.name} ends`} width="70px" value={String(b.end)} options={HOURS(1)} onChange={(v) => setBand(b.id, { end: Number(v) })} />
            <IconButton
              label={`Remove ${b.name}`}
              icon={Trash2}
              onClick={() => setTariff(`Tariff of ${fuel}: without ${b.name}`, { ...tariff, bands: tariff.bands.filter((x) => x.id !== b.id) })}
            />
          </Flex>
        ))}
        <Flex gap="8" mt="2" maxW="640px">
          <Box flex="1">
            <Row label="Demand charge" title="For the highest hourly mean of each month">
              <NumberInput
                label={`Demand charge of ${fuel}`}
                width="64px"
                value={tariff.demand}
                digits={2}
                onCommit={(v) => setTariff(`Demand charge of ${fuel}: ${figure(v, 2)}`, { ...tariff, demand: v })}
              />
              <Unit>{currency}/kW, month</Unit>
            </Row>
          </Box>
          <Box flex="1">
            <Row label="Standing charge">
              <NumberInput
                label={`Standing charge of ${fuel}`}
                width="64px"
                value={tariff.fixed}
                digits={0}
                onCommit={(v) => setTariff(`Standing charge of ${fuel}: ${figure(v, 0)}`, { ...tariff, fixed: v })}
              />
              <Unit>{currency}/a</Unit>
            </Row>
          </Box>
        </Flex>
      </Box>
      <HourlyValue />
      <BillTable summary={tally(live).summary} currency={currency} />
    </Flex>
  );
}

/** Largest file of hourly values, bytes. */
const MOST_FILE = 20e6;

/** Hourly value factors, read from a CSV by fuel and climate zone. */
function HourlyValue() {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const zone = useStore((s) => s.live.weather?.climateZone ?? null);
  const input = useRef<HTMLInputElement>(null);
  const [told, setTold] = useState<string | null>(null);
  const [read, setRead] = useState<{ name: string; zones: ValueFile } | null>(null);
  const { value } = project.factors;
  const put = (name: string, zones: ValueFile, of: string): void =>
    setTold(
      firstMessage(
        edit(`Hourly value factors from ${name}`, [
          setChange(project, ["factors", "value"], { name: "Hourly value", unit: "kWh", ...(of === "" ? {} : { zone: of }), byFuel: zones[of] }),
        ]),
      ),
    );
  const take = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    if (input.current) input.current.value = "";
    setRead(null);
    if (file.size > MOST_FILE) return setTold(`${file.name} is larger than ${MOST_FILE / 1e6} MB.`);
    const zones = readValueFile(await file.text());
    if (typeof zones === "string") return setTold(`${file.name}: ${zones}`);
    const found = Object.keys(zones);
    setRead(found.length > 1 ? { name: file.name, zones } : null);
    // the zone of the year in view where the file has it, else its first
    put(file.name, zones, found.find((z) => z === "" || z.startsWith(String(zone))) ?? found[0]);
  };
  const set = (words: string, key: "name" | "unit", t: string): string | null =>
    firstMessage(edit(`${words}: ${t}`, [setChange(project, ["factors", "value", key], t)]));
  return (
    <Box>
      <Flex align="center" gap="3" wrap="wrap">
        <Text as="h2" textStyle="title">
          Hourly value factors
        </Text>
        <Act onClick={() => input.current?.click()}>Read 8760 hours from a CSV</Act>
        {value && <Act onClick={() => edit("No hourly value factors", [setChange(project, ["factors", "value"], null)])}>Take them away</Act>}
        <chakra.input
          ref={input}
          type="file"
          accept=".csv,.txt,text/csv,text/plain"
          display="none"
          aria-label="Value factors file"
          onChange={(e) => void take(e.target.files?.[0])}
        />
      </Flex>
      {told && (
        <Text role="alert" color="clay">
          {told}
        </Text>
      )}
      {value ? (
        <Flex align="center" gap="3" wrap="wrap">
          <TextInput label="Name of the value" align="left" width="170px" value={value.name} onCommit={(t) => set("Hourly value", "name", t)} />
          <Text color="ink2">in</Text>
          <TextInput label="Unit of the value" align="left" width="60px" value={value.unit} onCommit={(t) => set("Unit of the hourly value", "unit", t)} />
          <Text color="ink2">
            for {Object.keys(value.byFuel).join(", ")}
            {value.zone ? `, climate zone ${value.zone}` : ""}
          </Text>
          {read && (
            <SelectInput
              label="Climate zone of the factors"
              align="left"
              width="130px"
              value={value.zone ?? ""}
              options={Object.keys(read.zones).map((z) => ({ value: z, label: z === "" ? "without a zone" : `zone ${z}` }))}
              onChange={(z) => put(read.name, read.zones, z)}
            />
          )}
        </Flex>
      ) : (
        <Text color="ink2">None. A file has a header of fuels, each with a climate zone or none, and a row for every hour of a common year.</Text>
      )}
    </Box>
  );
}

function tariffWords(t: Tariff | undefined, currency: string): string {
  if (!t) return "flat";
  const words = [
    t.bands.length > 0 ? `${t.bands.length} band${t.bands.length > 1 ? "s" : ""}` : "flat",
    ...(t.demand > 0 ? [`${figure(t.demand, 2)} ${currency}/kW`] : []),
    ...(t.fixed > 0 ? [`${figure(t.fixed, 0)} ${currency}/a`] : []),
  ];
  return words.join(", ");
}
