namespace Walkdown.Core.Register;

/// <summary>What a column of the register is about.</summary>
public enum FieldOf
{
    /// <summary>The place.</summary>
    Place,

    /// <summary>The unit.</summary>
    Unit,

    /// <summary>The port.</summary>
    Port,

    /// <summary>The channel.</summary>
    Channel,

    /// <summary>The run.</summary>
    Run,
}
