// Copies the four networks Zevo ships from the installed npm package into OUT/.
// The person detector lies inside a packed asset file; its offsets are read from the loader beside it.
import { readFileSync, writeFileSync, mkdirSync, renameSync } from 'node:fs';
import { join } from 'node:path';

const [, , packageDir, outDir] = process.argv;
if (!packageDir || !outDir) {
  console.error('usage: node prepare_models.mjs PACKAGE_DIR OUT_DIR');
  process.exit(2);
}
mkdirSync(outDir, { recursive: true });
// Written under another name first, so that an interrupted copy never looks complete.
const put = (name, bytes) => {
  writeFileSync(join(outDir, name + '.part'), bytes);
  renameSync(join(outDir, name + '.part'), join(outDir, name));
};

for (const size of ['lite', 'full', 'heavy']) {
  put(`pose_landmark_${size}.tflite`, readFileSync(join(packageDir, `pose_landmark_${size}.tflite`)));
}

const loader = readFileSync(join(packageDir, 'pose_solution_packed_assets_loader.js'), 'utf8');
const entry = loader.match(/"filename":\s*"[^"]*pose_detection\.tflite",\s*"start":\s*(\d+),\s*"end":\s*(\d+)/);
if (!entry) {
  console.error('the packed asset loader names no pose_detection.tflite');
  process.exit(1);
}
const packed = readFileSync(join(packageDir, 'pose_solution_packed_assets.data'));
put('pose_detection.tflite', packed.subarray(Number(entry[1]), Number(entry[2])));
