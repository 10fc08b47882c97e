"""What goes wrong around the program: processes killed, a store that breaks off, half a request, two people at once, and hostile words."""
