import Close from '@mui/icons-material/Close'
import Box from '@mui/material/Box'
import Button from '@mui/material/Button'
import IconButton from '@mui/material/IconButton'
import { Label } from './fields'
import { NumberField, type NumberFieldProps } from './NumberField'

/**
 * A number that Bead finds by itself until a person sets one. While it does, the field is a button
 * that says so in words, with the number it comes to where that is known.
 */
export function AutoField({
  word,
  start,
  value,
  onSet,
  ...field
}: Omit<NumberFieldProps, 'value'> & {
  /** What is said while it is automatic, such as "automatic, 40 mm". */
  word: string
  /** The number that it begins with when it is set. */
  start: number
  value: number | undefined
  /** The person sets a number, or gives that up. */
  onSet: (value: number | undefined) => void
}) {
  if (value === undefined) {
    return (
      <Box sx={{ minWidth: 0 }}>
        <Label>{field.label}</Label>
        <Button
          variant="outlined"
          fullWidth
          aria-label={`${field.label}: ${word}`}
          title="Press to set a number"
          sx={{
            minHeight: 26,
            px: 0.75,
            py: 0.25,
            justifyContent: 'flex-start',
            textAlign: 'left',
            lineHeight: 1.25,
          }}
          onClick={() => onSet(start)}
        >
          {word}
        </Button>
      </Box>
    )
  }
  return (
    <NumberField
      {...field}
      value={value}
      end={
        <IconButton
          aria-label={`${field.label}: ${word}`}
          title={word}
          sx={{ width: 18, height: 18, mr: -0.5, ml: 0.25, '& svg': { fontSize: 13 } }}
          onClick={() => onSet(undefined)}
        >
          <Close />
        </IconButton>
      }
    />
  )
}
