"use client";
import { chakra, Flex } from "@chakra-ui/react";
import { Copy, Library, MapPin, Pencil, Plus, Trash2, type LucideIcon } from "lucide-react";

const icons = { add: Plus, library: Library, copy: Copy, rename: Pencil, where: MapPin, remove: Trash2 } as const satisfies Record<string, LucideIcon>;
export type ActionName = keyof typeof icons;
export interface Action {
  readonly label: string;
  run(): void;
  /** Why it cannot be done now; told on hover. */
  readonly not?: string | undefined;
}

/** An action told by a picture, with its words on hover. @param not why it cannot be done now */
export function IconButton({ label, icon: Icon, onClick, not }: { label: string; icon: LucideIcon; onClick: () => void; not?: string }) {
  return (
    <chakra.button
      type="button"
      aria-label={label}
      title={not === undefined ? label : `${label}: ${not}`}
      aria-disabled={not !== undefined}
      opacity={not === undefined ? 1 : 0.4}
      w="28px"
      h="24px"
      display="grid"
      placeItems="center"
      borderRadius="small"
      color="ink2"
      cursor={not === undefined ? "pointer" : "default"}
      _hover={{ background: "wash", color: "water" }}
      onClick={() => not === undefined && onClick()}
    >
      <Icon size={15} aria-hidden="true" />
    </chakra.button>
  );
}

/** What can be done with a listed thing: the same actions, in the same order and place, on every desk. */
export function Actions({ label, actions }: { label: string; actions: Partial<Record<ActionName, Action>> }) {
  return (
    <Flex role="toolbar" aria-label={label} gap="0.5" px="2" py="1" borderBottom="1px solid" borderColor="line">
      {(Object.keys(icons) as ActionName[]).map((name) => {
        const action = actions[name];
        if (!action) return null;
        return (
          <IconButton
            key={name}
            label={action.label}
            icon={icons[name]}
            onClick={() => action.run()}
            {...(action.not === undefined ? {} : { not: action.not })}
          />
        );
      })}
    </Flex>
  );
}
