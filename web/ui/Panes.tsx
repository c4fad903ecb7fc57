import { Box, chakra, Flex, Text } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** Left list of a desk. */
export function Side({ label, children, width = "196px" }: { label: string; children: ReactNode; width?: string }) {
  return (
    <Box as="aside" aria-label={label} w={width} flexShrink={0} borderRight="1px solid" borderColor="line" overflowY="auto" py="2">
      {children}
    </Box>
  );
}

export function SideHead({ children, unit }: { children: ReactNode; unit?: string | undefined }) {
  return (
    <Text as="h2" textStyle="head" color="ink2" px="3.5" mt="2" mb="1">
      {children}
      {unit && (
        <Text as="span" textTransform="none" letterSpacing="0" fontWeight="400">
          {" "}
          {unit}
        </Text>
      )}
    </Text>
  );
}

export function SideItem({
  children,
  value,
  active,
  indent = false,
  bold = false,
  onClick,
}: {
  children: ReactNode;
  value?: ReactNode;
  active?: boolean;
  indent?: boolean;
  bold?: boolean;
  onClick: (e: { shiftKey: boolean }) => void;
}) {
  return (
    <chakra.button
      type="button"
      display="flex"
      w="100%"
      justifyContent="space-between"
      textAlign="left"
      gap="2"
      pl={indent ? "6" : "3"}
      pr="3.5"
      py="1"
      borderLeft="3px solid"
      borderColor={active ? "water" : "transparent"}
      background={active ? "wash" : "transparent"}
      fontWeight={bold || active ? "600" : "400"}
      cursor="pointer"
      _hover={{ background: "wash" }}
      aria-current={active ? "true" : undefined}
      onClick={onClick}
    >
      <span>{children}</span>
      <Text as="span" color="ink2" fontWeight="400" flexShrink={0}>
        {value}
      </Text>
    </chakra.button>
  );
}

/** The middle of a desk. */
export function Middle({ children, label }: { children: ReactNode; label: string }) {
  return (
    // focusable, so that what scrolls can be scrolled by keys
    <Box
      as="main"
      aria-label={label}
      tabIndex={0}
      _focusVisible={{ outline: "2px solid", outlineColor: "water", outlineOffset: "-2px" }}
      flex="1"
      minW="0"
      background="sheet"
      overflowY="auto"
      px="4"
      py="3"
    >
      {children}
    </Box>
  );
}

/** The inspector on the right. */
export function Inspector({ children, title, about }: { children: ReactNode; title: string; about?: ReactNode }) {
  return (
    <Box as="aside" aria-label="Inspector" w="292px" flexShrink={0} borderLeft="1px solid" borderColor="line" overflowY="auto" px="3.5" py="3">
      <Text as="h2" textStyle="title">
        {title}
      </Text>
      {about && (
        <Box color="ink2" mb="2">
          {about}
        </Box>
      )}
      {children}
    </Box>
  );
}

/** A plain table with one rule between rows. */
export function Grid({
  head,
  rows,
  label,
}: {
  head: readonly { readonly text: ReactNode; readonly unit?: string; readonly left?: boolean }[];
  rows: readonly { readonly key: string; readonly cells: readonly ReactNode[]; readonly active?: boolean; readonly onClick?: () => void }[];
  label: string;
}) {
  return (
    <chakra.table w="100%" aria-label={label} borderCollapse="collapse" fontSize="12.5px">
      <thead>
        <tr>
          {head.map((h, i) => (
            <chakra.th
              key={i}
              scope="col"
              textAlign={h.left ? "left" : "right"}
              fontWeight="500"
              color="ink2"
              py="1"
              px="1.5"
              borderBottom="1px solid"
              borderColor="line"
              verticalAlign="bottom"
            >
              {h.text}
              {h.unit && (
                <Text as="span" display="block" fontSize="11px">
                  {h.unit}
                </Text>
              )}
            </chakra.th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((r) => (
          <chakra.tr
            key={r.key}
            onClick={r.onClick}
            cursor={r.onClick ? "pointer" : "default"}
            background={r.active ? "wash" : "transparent"}
            _hover={r.onClick ? { background: "wash" } : {}}
          >
            {r.cells.map((c, i) => (
              <chakra.td key={i} textAlign={head[i].left ? "left" : "right"} py="0.5" px="1.5" borderBottom="1px solid" borderColor="line">
                {c}
              </chakra.td>
            ))}
          </chakra.tr>
        ))}
      </tbody>
    </chakra.table>
  );
}

export function Line({ children }: { children: ReactNode }) {
  return (
    <Flex gap="2" align="center">
      {children}
    </Flex>
  );
}
