using Walkdown.Core.Acceptance;
using Walkdown.Core.Measures;
using Walkdown.Core.Power;
using Walkdown.Storage;
using Walkdown.Storage.Entities;

namespace Walkdown.Server.Power;

/// <summary>The budget of the source that feeds a Card, as it stands for this port.</summary>
/// <param name="Why">In words.</param>
public sealed record CardSource(string Source, int Port, State State, string Why);
