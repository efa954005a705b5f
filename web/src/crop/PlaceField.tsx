import classes from './PlaceField.module.css';
import { t } from '../words';

interface Props {
  across: number;
  down: number;
  onPlace: (across: number, down: number) => void;
}

const STEPS = [0, 0.5, 1] as const;
const ROWS = ['top', 'middle', 'bottom'];
const COLUMNS = ['left', 'middle', 'right'];

/** Where on the paper a page lies, when there is room. */
export function PlaceField({ across, down, onPlace }: Props) {
  return (
    <fieldset className={classes.field}>
      <legend>{t('crop.placeOnThePaper')}</legend>
      <div className={classes.grid}>
        {STEPS.map((y, row) =>
          STEPS.map((x, column) => (
            <input
              key={`${x} ${y}`}
              type="radio"
              name="place"
              aria-label={row === 1 && column === 1 ? t('crop.middle') : `${ROWS[row]} ${COLUMNS[column]}`}
              checked={x === across && y === down}
              onChange={() => onPlace(x, y)}
            />
          )),
        )}
      </div>
    </fieldset>
  );
}
