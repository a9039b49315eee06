using Walkdown.Core.Acceptance;
using Walkdown.Reports;

namespace Walkdown.Server.Readings;

/// <summary>Instruments named by the file that are not in the Kit.</summary>
public sealed record UnknownInstrument(string Serial, int Results);
