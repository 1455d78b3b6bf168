// Pictures out: one frame as a file, or several with their words on one sheet.

export function saveAs(name: string, address: string): void {
  const link = document.createElement("a");
  link.href = address;
  link.download = name;
  link.click();
}

export function fileName(title: string, ending: string): string {
  const plain = title
    .toLowerCase()
    .replace(/[^\p{L}\p{N}]+/gu, "-")
    .replace(/^-|-$/g, "");
  return `${plain || "look"}.${ending}`;
}

type Part = { says: string; src: string | null };

const WIDE = 480;
const GAP = 24;
const LINE = 34;

/** Draw frames with their words side by side on one sheet, and save it as PNG. */
export async function saveSheet(title: string, parts: Part[]): Promise<void> {
  const drawn = await Promise.all(
    parts
      .filter((part) => part.src !== null)
      .map(async (part) => ({ ...part, image: await loaded(part.src ?? "") })),
  );
  const first = drawn[0];
  if (!first) return;
  const across = Math.min(3, drawn.length);
  const high = Math.round((WIDE * first.image.height) / first.image.width);
  const sheet = document.createElement("canvas");
  sheet.width = GAP + across * (WIDE + GAP);
  sheet.height = GAP + 2 * LINE + Math.ceil(drawn.length / across) * (high + LINE + GAP);
  const pen = sheet.getContext("2d");
  if (!pen) return;
  // A sheet is for paper and other people's screens: it is light on every ground.
  pen.fillStyle = "#ffffff";
  pen.fillRect(0, 0, sheet.width, sheet.height);
  pen.fillStyle = "#17262e";
  pen.font = "600 26px 'Besley Variable', serif";
  pen.fillText(title, GAP, GAP + 24, sheet.width - 2 * GAP);
  pen.font = "19px 'Atkinson Hyperlegible Next Variable', sans-serif";
  drawn.forEach(({ says, image }, index) => {
    const x = GAP + (index % across) * (WIDE + GAP);
    const y = GAP + 2 * LINE + Math.floor(index / across) * (high + LINE + GAP);
    pen.drawImage(image, x, y, WIDE, high);
    pen.fillText(says, x, y + high + 24, WIDE);
  });
  saveAs(fileName(title, "png"), sheet.toDataURL("image/png"));
}

function loaded(src: string): Promise<HTMLImageElement> {
  return new Promise((resolve, reject) => {
    const image = new Image();
    image.onload = () => resolve(image);
    image.onerror = () => reject(new Error("A frame could not be read."));
    image.src = src;
  });
}
