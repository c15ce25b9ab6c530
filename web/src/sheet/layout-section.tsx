import { LayoutForm } from "../layouts/layout-form";
import { LayoutStanding } from "./layout-standing";
import type { SectionProps } from "./section-props";

export function LayoutSection({ sheet, change, light, setLight }: SectionProps) {
  return (
    <>
      <LayoutStanding sheet={sheet} change={change} />
      <LayoutForm
        layout={sheet.layout}
        put={(layout) => change({ ...sheet, layout })}
        light={light}
        setLight={setLight}
      />
    </>
  );
}
