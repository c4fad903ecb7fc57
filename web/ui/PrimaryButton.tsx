import { chakra } from "@chakra-ui/react";
import type { ReactNode } from "react";

/** The one action a screen leads to. */
export function PrimaryButton({ children, disabled = false, onClick }: { children: ReactNode; disabled?: boolean; onClick: () => void }) {
  return (
    <chakra.button
      type="button"
      background="water"
      color="sheet"
      px="3.5"
      h="30px"
      borderRadius="small"
      fontWeight="500"
      cursor="pointer"
      disabled={disabled}
      opacity={disabled ? 0.5 : 1}
      onClick={onClick}
    >
      {children}
    </chakra.button>
  );
}
