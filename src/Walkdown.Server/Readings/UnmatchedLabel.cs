using Walkdown.Core.Acceptance;
using Walkdown.Reports;

namespace Walkdown.Server.Readings;

/// <summary>Labels that match no run and no device, with how many results hang on each.</summary>
public sealed record UnmatchedLabel(string Where, int Results);
