global using System.Collections.Immutable;
global using System.Globalization;
