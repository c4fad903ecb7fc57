"use client";
import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import { useRouter } from "next/navigation";
import { useCallback, useEffect, useRef, useState } from "react";
import { emptyProject, starterContext, type Problem, type Project } from "@arroyo/core";
import { ask, tell } from "../../live/server.ts";
import { ImportSheet } from "./ImportSheet.tsx";
import { MassingForm } from "./MassingForm.tsx";
import { Logo } from "../../ui/Frame.tsx";
import { PrimaryButton } from "../../ui/PrimaryButton.tsx";
import { Act } from "../../ui/fields.tsx";
import { Told } from "../../ui/Told.tsx";

interface Item {
  readonly id: string;
  readonly name: string;
  readonly revision: number;
  readonly updatedAt: string;
  readonly storeys: number;
  readonly spaces: number;
  readonly place: string;
}
interface Refused {
  readonly file: string;
  readonly message: string;
  readonly problems: readonly Problem[];
}

const when = (iso: string): string => new Date(iso).toLocaleString("en-GB", { day: "numeric", month: "short", hour: "2-digit", minute: "2-digit" });

export function ProjectList() {
  const router = useRouter();
  const [items, setItems] = useState<readonly Item[] | null>(null);
  const [error, setError] = useState<string | null>(null);
  const [refused, setRefused] = useState<Refused | null>(null);
  const [massing, setMassing] = useState(false);
  const [foreign, setForeign] = useState<File | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const load = useCallback(async () => {
    const answer = await ask<Item[]>("/api/projects");
    if (answer.ok) setItems(answer.body);
    else setError(answer.message);
  }, []);
  useEffect(() => {
    // the list comes from the server once the page is there
    // eslint-disable-next-line react-hooks/set-state-in-effect
    void load();
  }, [load]);
  const take = async (chosen: File | undefined): Promise<void> => {
    if (!chosen) return;
    setRefused(null);
    setForeign(null);
    // a project document is ours; anything else is read as a building of another program
    if (!/\.json$/i.test(chosen.name)) {
      setForeign(chosen);
      if (file.current) file.current.value = "";
      return;
    }
    const answer = await ask<{ id: string }>("/api/projects", { kind: "application/json", body: chosen });
    if (answer.ok) router.push(`/p/${answer.body.id}/form`);
    else setRefused({ file: chosen.name, message: answer.message, problems: answer.problems });
    if (file.current) file.current.value = "";
  };
  const keep = async (project: Project): Promise<string | null> => {
    const answer = await tell<{ id: string }>("/api/projects", project);
    if (!answer.ok) return [answer.message, ...answer.problems.slice(0, 3).map((p) => `${p.path}: ${p.message}`)].join(" ");
    router.push(`/p/${answer.body.id}/form`);
    return null;
  };
  return (
    <Box h="100dvh" overflowY="auto">
      <Flex as="header" align="center" px="4" h="40px" borderBottom="1px solid" borderColor="line">
        <Logo />
      </Flex>
      <Box as="main" maxW="860px" mx="auto" px="6" py="8">
        <Text as="h1" fontSize="22px" fontWeight="600">
          Projects
        </Text>
        <Text color="ink2" mt="1" maxW="640px">
          Open a building and change anything: its whole year is computed again within a second, and every figure follows. The library is a full example, the
          climbing hall one of natural ventilation; the clinic is small, for learning.
        </Text>
        <Flex gap="5" my="5" align="center">
          <PrimaryButton onClick={() => file.current?.click()}>Import a file</PrimaryButton>
          <Act onClick={() => setMassing(!massing)}>New project from a massing</Act>
          <Act onClick={() => void keep(emptyProject(starterContext, "drawn", "New building")).then(setError)}>New project to draw</Act>
          <chakra.input
            ref={file}
            type="file"
            accept=".json,.xml,.gbxml,.ifc"
            display="none"
            aria-label="Project file"
            onChange={(e) => void take(e.target.files?.[0])}
          />
        </Flex>
        <Text color="ink2" fontSize="12px" mt="-3" mb="4">
          A project in JSON, or a building in gbXML or IFC.
        </Text>
        {foreign && <ImportSheet key={`${foreign.name} ${foreign.lastModified}`} file={foreign} onMake={keep} onCancel={() => setForeign(null)} />}
        {massing && (
          <Box mb="6">
            <MassingForm context={starterContext} id="massing" name="New building" onCancel={() => setMassing(false)} onMake={keep} />
          </Box>
        )}
        {refused && (
          <Box role="alert" background="claywash" px="4" py="3" mb="5" maxH="260px" overflowY="auto">
            <Text fontWeight="600">
              {refused.file}: {refused.message}
            </Text>
            {refused.problems.slice(0, 30).map((p, i) => (
              <Text key={i} mt="1">
                {p.path && (
                  <Text as="span" fontFamily="mono" fontSize="12px">
                    {p.path}{" "}
                  </Text>
                )}
                <Told text={p.message} />
              </Text>
            ))}
          </Box>
        )}
        {error && (
          <Text role="alert" color="clay">
            {error}
          </Text>
        )}
        {items === null && !error && <Box h="120px" background="sheet" aria-busy="true" />}
        {items?.length === 0 && <Text color="ink2">No project yet. Import one, or start Arroyo with an empty database to get the two demos back.</Text>}
        {items && items.length > 0 && (
          <chakra.table w="100%" borderCollapse="collapse" aria-label="Projects">
            <thead>
              <tr>
                {["Name", "Place", "Storeys", "Spaces", "Changed", ""].map((h, i) => (
                  <chakra.th
                    key={i}
                    scope="col"
                    textAlign={i === 2 || i === 3 ? "right" : "left"}
                    py="1.5"
                    px="2"
                    color="ink2"
                    fontWeight="500"
                    borderBottom="1px solid"
                    borderColor="line"
                  >
                    {h || <chakra.span srOnly>Actions</chakra.span>}
                  </chakra.th>
                ))}
              </tr>
            </thead>
            <tbody>
              {items.map((p) => (
                <chakra.tr key={p.id} _hover={{ background: "wash" }}>
                  <chakra.td py="2" px="2" borderBottom="1px solid" borderColor="line">
                    <chakra.a
                      href={`/p/${p.id}/form`}
                      fontWeight="600"
                      color="ink"
                      onClick={(e) => {
                        e.preventDefault();
                        router.push(`/p/${p.id}/form`);
                      }}
                    >
                      {p.name}
                    </chakra.a>
                  </chakra.td>
                  {[p.place, p.storeys, p.spaces, when(p.updatedAt)].map((v, i) => (
                    <chakra.td key={i} px="2" textAlign={i === 1 || i === 2 ? "right" : "left"} borderBottom="1px solid" borderColor="line">
                      {v}
                    </chakra.td>
                  ))}
                  <chakra.td px="2" textAlign="right" borderBottom="1px solid" borderColor="line">
                    <Act onClick={() => window.location.assign(`/api/projects/${p.id}/export`)}>Export</Act>
                  </chakra.td>
                </chakra.tr>
              ))}
            </tbody>
          </chakra.table>
        )}
      </Box>
    </Box>
  );
}
