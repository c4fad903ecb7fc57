import type { Metadata } from "next";
import { headers } from "next/headers";
import type { ReactNode } from "react";
import "@fontsource/ibm-plex-sans/400.css";
import "@fontsource/ibm-plex-sans/500.css";
import "@fontsource/ibm-plex-sans/600.css";
import "@fontsource/ibm-plex-mono/400.css";
import "uplot/dist/uPlot.min.css";
import { Providers } from "./providers.tsx";

export const metadata: Metadata = { title: "Arroyo", description: "Building energy, always current." };

const theme = `try{if(localStorage.getItem("arroyo-dark")==="1")document.documentElement.classList.add("dark")}catch{}`;

export default async function RootLayout({ children }: { children: ReactNode }) {
  // read for every page: a page made in advance would carry no nonce
  const nonce = (await headers()).get("x-nonce") ?? undefined;
  return (
    <html lang="en" suppressHydrationWarning>
      <head>
        <script nonce={nonce} suppressHydrationWarning dangerouslySetInnerHTML={{ __html: theme }} />
      </head>
      <body>
        <Providers>{children}</Providers>
      </body>
    </html>
  );
}
