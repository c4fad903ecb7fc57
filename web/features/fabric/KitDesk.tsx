"use client";
import { Box, Flex, Text } from "@chakra-ui/react";
import { assemblyU, glazingRating, isGlazed, kitRoles, roleOfUse, roleWords, setChange, type KitRole, type Project } from "@arroyo/core";
import { Act, Head, Row, SelectInput } from "../../ui/fields.tsx";
import { VaryThis } from "../../ui/VaryThis.tsx";
import { useUnits } from "../../ui/units.ts";
import { useStore } from "../store.ts";
import { showThing } from "./fabricStore.ts";
import { Bridges } from "./Bridges.tsx";
import { ThingHead } from "./ThingHead.tsx";

/** What each kind of element gets, unless a space or a face says otherwise. */
export function KitDesk({ id }: { id: string }) {
  const project = useStore((s) => s.project) as Project;
  const edit = useStore((s) => s.edit);
  const units = useUnits();
  const kit = project.kits[id];
  const fits = (role: KitRole) =>
    isGlazed(role)
      ? Object.entries(project.glazings).map(([g, x]) => ({ value: g, label: x.name }))
      : Object.entries(project.assemblies)
          .filter(([a, x]) => roleOfUse[x.use] === role || a === kit[role])
          .map(([a, x]) => ({ value: a, label: roleOfUse[x.use] === role ? x.name : `${x.name} (made for a ${x.use})` }));
  const u = (role: KitRole): string => {
    try {
      return units.words(isGlazed(role) ? glazingRating(project.glazings[kit[role]]).u : assemblyU(project, project.assemblies[kit[role]]), "W/m²K", 2);
    } catch {
      return "—";
    }
  };
  return (
    <>
      <ThingHead part="kits" id={id} />
      <Text color="ink2" mb="1">
        What is drawn gets these, by kind of element. A space may have another kit, a single face another assembly.
      </Text>
      <Box maxW="640px">
        <Head>Kind of element</Head>
        {kitRoles.map((role) => (
          <Row
            key={role}
            label={roleWords[role][0].toUpperCase() + roleWords[role].slice(1)}
            actions={<VaryThis addresses={[`kits/${id}/${role}`]} label={roleWords[role]} />}
          >
            <SelectInput
              label={`${roleWords[role]} of the kit`}
              width="290px"
              align="left"
              value={kit[role]}
              options={fits(role)}
              onChange={(v) => edit(`${kit.name}: ${roleWords[role]}`, [setChange(project, ["kits", id, role], v)])}
            />
            <Flex w="150px" justify="flex-end" gap="3">
              <Text color="ink2">{u(role)}</Text>
              <Act onClick={() => showThing(isGlazed(role) ? "glazings" : "assemblies", kit[role])}>open</Act>
            </Flex>
          </Row>
        ))}
      </Box>
      <Bridges id={id} />
    </>
  );
}
