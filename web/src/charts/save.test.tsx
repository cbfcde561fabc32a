// @vitest-environment happy-dom
import { render } from "@testing-library/react";
import { describe, expect, it } from "vitest";
import { escaped, standalone, wrapped } from "./save";

describe("a chart as a file", () => {
  it("promises lines no longer than asked, and no word lost", () => {
    const lines = wrapped("Interactions received in the period divided by reach gained in it", 24);
    expect(lines.every((line) => line.length <= 24)).toBe(true);
    expect(lines.join(" ")).toBe("Interactions received in the period divided by reach gained in it");
  });
  it("promises that what people wrote is text and never markup", () => {
    expect(escaped(`<script>"x" & 'y'`)).toBe("&#60;script&#62;&#34;x&#34; &#38; &#39;y&#39;");
  });
  it("promises a drawing that stands alone: title, definition, and no class of ours", () => {
    const { container } = render(
      <svg width="200" height="100">
        <path className="mark" d="M0 0h9" stroke="red" />
      </svg>,
    );
    const svg = container.querySelector("svg") as SVGSVGElement;
    Object.defineProperty(svg, "width", { value: { baseVal: { value: 200 } } });
    Object.defineProperty(svg, "height", { value: { baseVal: { value: 100 } } });
    const text = standalone(svg, { title: "Reach & more", lines: ["People who saw a post.", "Orrery House"] });
    const parsed = new DOMParser().parseFromString(text, "image/svg+xml");
    expect(parsed.querySelector("parsererror")).toBeNull();
    expect(parsed.querySelector("title")?.textContent).toBe("Reach & more");
    expect(parsed.querySelector("desc")?.textContent).toContain("People who saw a post.");
    expect(text).not.toContain("class=");
  });
});
